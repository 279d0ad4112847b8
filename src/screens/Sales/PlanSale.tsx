'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import {
  formatAmount,
  formatMoney,
  formatPercent,
  money,
  parseAmountMinor,
  parsePercentPpm,
} from '@/core/pricing/money';
import type { SaleTerms } from '@/core/pricing/sale';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { count } from '@/core/words/count';
import { Select } from '@/ui/Select';
import type { SalePreview, SalesData } from './load';

const ALL = '';

/** A moment of the browser's clock as its field wants it: `2026-12-01T09:00`. */
function localText(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`;
}

/** A day to come at a full hour. */
function inDays(days: number, hour: number): string {
  const at = new Date();
  at.setDate(at.getDate() + days);
  at.setHours(hour, 0, 0, 0);
  return localText(at);
}

interface Draft {
  readonly what: 'sale' | 'code';
  readonly name: string;
  readonly code: string;
  readonly kind: SaleTerms['kind'];
  readonly off: string;
  readonly store: string;
  readonly good: string;
  readonly tag: string;
  readonly from: string;
  readonly until: string;
}

/** What is sent; throws a sentence for what cannot be read. */
function bodyOf(draft: Draft, currency: string, chosen: readonly string[] | null) {
  const terms: SaleTerms =
    draft.kind === 'share'
      ? { kind: 'share', ppm: parsePercentPpm(draft.off) }
      : { kind: draft.kind, amountMinor: parseAmountMinor(draft.off, currency), currency };
  const [from, until] = [new Date(draft.from), new Date(draft.until)];
  if (Number.isNaN(from.getTime()) || Number.isNaN(until.getTime()))
    throw new Error(`Say when the ${draft.what} begins and ends.`);
  const one = (value: string) => (value === ALL ? [] : [value]);
  const code = draft.code.trim().toUpperCase();
  return {
    name: draft.name.trim() || (draft.what === 'code' ? code || 'Code' : 'Sale'),
    ...(draft.what === 'code' ? { code } : {}),
    terms,
    // Products that are chosen one by one stand for themselves, whatever kind they are of.
    scope: chosen
      ? { storeIds: one(draft.store), productIds: chosen, kinds: [], tags: [] }
      : { storeIds: one(draft.store), productIds: [], kinds: one(draft.good), tags: one(draft.tag) },
    startsAt: from.toISOString(),
    endsAt: until.toISOString(),
  };
}

/** A new sale or discount code: what is taken off of what, where and when; what it does is looked at before it is planned. */
export function PlanSale(data: SalesData) {
  const { draft, change, preview, ask, problem, ...plan } = useDraft(data.currency);
  return (
    <section className="text-small">
      <h2 className="font-display text-[17px] mb-1.5">Plan a sale or a code</h2>
      <DraftForm data={data} draft={draft} change={change} onSee={() => void ask(false)} />
      {problem && <Alert className="mt-3">{problem}</Alert>}
      {preview && (
        <Preview
          preview={preview}
          isCode={draft.what === 'code'}
          acceptLosses={plan.acceptLosses}
          onAccept={plan.setAccept}
          onPlan={() => void ask(true)}
          left={plan.left}
          onLeave={plan.leave}
        />
      )}
    </section>
  );
}

const emptyDraft = (): Draft => ({
  what: 'sale',
  name: '',
  code: '',
  kind: 'share',
  off: '20',
  store: ALL,
  good: ALL,
  tag: ALL,
  from: inDays(1, 9),
  until: inDays(8, 21),
});

/** What is planned, what it would do, and what of that was left out or accepted; a change of the plan begins anew. */
function useDraft(currency: string) {
  const router = useRouter();
  const [draft, setDraft] = useState(emptyDraft);
  const [preview, setPreview] = useState<SalePreview | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [acceptLosses, setAccept] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const change = (part: Partial<Draft>) => {
    setDraft({ ...draft, ...part });
    setPreview(null);
    setLeft(new Set());
    setAccept(false);
  };
  const leave = (id: string, isLeft: boolean) =>
    setLeft((all) => new Set(isLeft ? [...all, id] : [...all].filter((one) => one !== id)));
  const ask = async (plan: boolean) => {
    try {
      const ids = [...new Set((preview?.lines ?? []).map(({ productId }) => productId))];
      const body = bodyOf(draft, currency, plan && left.size > 0 ? ids.filter((id) => !left.has(id)) : null);
      setProblem(null);
      if (!plan) return setPreview(await call<SalePreview>('POST', '/sales/preview', body));
      await call('POST', '/sales', acceptLosses ? { ...body, acceptLosses } : body);
      change({ name: '', code: '' });
      router.refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return { draft, change, preview, left, leave, acceptLosses, setAccept, ask, problem };
}

const named = (all: string, values: readonly string[]) => [
  { value: ALL, name: all },
  ...values.map((value) => ({ value, name: value })),
];

interface DraftFormProps {
  readonly data: SalesData;
  readonly draft: Draft;
  readonly change: (part: Partial<Draft>) => void;
  readonly onSee: () => void;
}

function DraftForm({ data: { stores, kinds, tags, currency }, draft, change, onSee }: DraftFormProps) {
  const box = (name: BoxName) => ({ value: draft[name], onChange: (typed: string) => change({ [name]: typed }) });
  return (
    <form
      className="flex flex-wrap items-baseline gap-x-6 gap-y-2 border-t border-hairline pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSee();
      }}
    >
      <Select
        label="Plan"
        value={draft.what}
        choices={[
          { value: 'sale', name: 'a sale: prices change' },
          { value: 'code', name: 'a code: buyers type it' },
        ]}
        onChange={(what) => change({ what, ...(what === 'code' && draft.kind === 'price' ? { kind: 'share' } : {}) })}
      />
      {draft.what === 'code' && <Box label="Code" width="w-28 uppercase" {...box('code')} />}
      <Box label="Name" width="w-44" {...box('name')} />
      <Select
        label="Takes off"
        value={draft.kind}
        choices={[
          { value: 'share', name: 'a share, %' },
          { value: 'sum', name: `a sum, ${currency}` },
          ...(draft.what === 'sale' ? [{ value: 'price' as const, name: `all at one price, ${currency}` }] : []),
        ]}
        onChange={(kind) => change({ kind })}
      />
      <Box label={draft.kind === 'price' ? 'at' : 'of'} width="w-16" {...box('off')} />
      <Select
        label="In"
        value={draft.store}
        choices={[{ value: ALL, name: 'all stores' }, ...stores.map(({ id, name }) => ({ value: id, name }))]}
        onChange={(store) => change({ store })}
      />
      <Select
        label="Goods"
        value={draft.good}
        choices={named('of every kind', kinds)}
        onChange={(good) => change({ good })}
      />
      {tags.length > 0 && (
        <Select label="Artwork" value={draft.tag} choices={named('any', tags)} onChange={(tag) => change({ tag })} />
      )}
      <Box label="From" width="w-52" type="datetime-local" {...box('from')} />
      <Box label="until" width="w-52" type="datetime-local" {...box('until')} />
      <Button type="submit">See what it does</Button>
    </form>
  );
}

type BoxName = 'name' | 'code' | 'off' | 'from' | 'until';

function Box({
  label,
  width,
  type = 'text',
  value,
  onChange,
}: {
  label: string;
  width: string;
  type?: 'text' | 'datetime-local';
  value: string;
  onChange: (typed: string) => void;
}) {
  return (
    <label className="inline-flex items-baseline gap-1.5 text-muted">
      {label}
      <input
        type={type}
        className={`border-b border-edge bg-transparent px-0.5 py-0.5 font-mono text-small text-ink focus:border-primary ${width}`}
        value={value}
        maxLength={80}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}

/** The deepest code that still pays in each store: a share, and a sum off an order of one item. */
function Deepest({ deepest }: Pick<SalePreview, 'deepest'>) {
  return (
    <ul className="mb-1.5">
      {deepest.map(({ storeId, storeName, sharePpm, sumMinor, currency }) => (
        <li key={storeId}>
          {sharePpm === null || sumMinor === null ? (
            <span className="text-stop">In {storeName} a price loses money without a code already.</span>
          ) : (
            <>
              The deepest code that still pays on all of this in {storeName}:{' '}
              <span className="font-semibold">{formatPercent(sharePpm)}</span> or{' '}
              <span className="font-semibold">{formatMoney(money(sumMinor, currency))}</span> off an order.
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Lines that the server tells at most. */
const MAX_LINES = 200;

interface PreviewProps {
  readonly preview: SalePreview;
  readonly isCode: boolean;
  readonly acceptLosses: boolean;
  readonly onAccept: (accept: boolean) => void;
  readonly onPlan: () => void;
  /** Products that are left out of it. */
  readonly left: ReadonlySet<string>;
  readonly onLeave: (productId: string, isLeft: boolean) => void;
}

function Preview(props: PreviewProps) {
  return (
    <div className="mt-4">
      <Sums {...props} />
      {props.isCode && <Deepest deepest={props.preview.deepest} />}
      <Lines {...props} />
    </div>
  );
}

function Sums({ preview, isCode, acceptLosses, onAccept, onPlan, left }: PreviewProps) {
  const shown = new Set(preview.lines.map(({ productId }) => productId)).size;
  return (
    <p className="flex flex-wrap items-baseline gap-x-5 mb-1.5">
      <span>
        {count(preview.products, 'product')}, {count(preview.lines.length, 'listing')} shown
      </span>
      {preview.cutOff && <span className="text-caution">only the first 2,000 products were looked at</span>}
      {preview.held > 0 && <span className="text-caution">{preview.held} variants are held at their floor</span>}
      {preview.losing > 0 && (
        <span className="text-stop">
          {preview.losing} {preview.losing === 1 ? 'variant loses' : 'variants lose'} money{' '}
          {isCode ? 'with it' : 'all the same'}
        </span>
      )}
      {preview.losingWithCode > 0 && (
        <span className="text-stop">
          {preview.losingWithCode} lose money where a code is used that holds at the same time
        </span>
      )}
      {isCode && preview.losing > 0 && (
        <label>
          <input
            type="checkbox"
            className="accent-primary"
            checked={acceptLosses}
            onChange={(e) => onAccept(e.target.checked)}
          />{' '}
          I accept these losses
        </label>
      )}
      <Button
        kind="primary"
        disabled={preview.products === 0 || left.size === shown || (isCode && preview.losing > 0 && !acceptLosses)}
        onClick={onPlan}
      >
        Plan it
      </Button>
    </p>
  );
}

const span = ([least, most]: readonly [number, number], currency: string) =>
  least === most
    ? formatMoney(money(least, currency))
    : `${formatAmount(money(least, currency))} – ${formatMoney(money(most, currency))}`;

function Lines({ preview, isCode, left, onLeave }: PreviewProps) {
  // Products can be chosen one by one where all lines stand in the table.
  const canChoose = !preview.cutOff && preview.lines.length < MAX_LINES;
  return (
    <table className="w-full bg-sheet border-y border-hairline">
      <TableHead
        className="border-b border-hairline"
        columns={[
          ['Product', 'py-1.5 pl-2'],
          'Store',
          ['Variants', 'text-right'],
          ['Now', 'text-right'],
          [isCode ? 'With the code' : 'In the sale', 'text-right'],
          [isCode ? 'Loss' : 'At the floor', 'text-right pr-2'],
        ]}
      />
      <tbody>
        {preview.lines.map((line) => (
          <tr key={line.productId + line.storeId} className="border-b border-hairline">
            <td className="py-1.5 pl-2">
              <label className={left.has(line.productId) ? 'text-muted line-through' : ''}>
                {canChoose && (
                  <input
                    type="checkbox"
                    className="accent-primary mr-2"
                    checked={!left.has(line.productId)}
                    onChange={(e) => onLeave(line.productId, !e.target.checked)}
                  />
                )}
                {line.title}
              </label>
            </td>
            <td>{line.storeName}</td>
            <td className="text-right">{line.variants}</td>
            <td className="text-right">{span(line.before, line.currency)}</td>
            <td className="text-right font-semibold">{span(line.then, line.currency)}</td>
            <td
              className={`text-right pr-2 ${line.losing > 0 ? 'text-stop' : line.held > 0 ? 'text-caution' : 'text-muted'}`}
            >
              {line.losing > 0 ? `a loss on ${line.losing}` : line.held > 0 ? `${line.held} held` : '–'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
