'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { parseAmountMinor, parsePercentPpm } from '@/core/pricing/money';
import type { SaleTerms } from '@/core/pricing/sale';
import { count } from '@/core/words/count';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import type { SalePreview, SalesData } from './load';
import { SalePreviewTable } from './SalePreviewTable';

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
  const { draft, change, preview, ask, problem, ...plan } = useDraft(data);
  return (
    <section className="text-small">
      <h2 className="font-display text-[17px] mb-1.5">Plan a sale or a code</h2>
      <DraftForm data={data} draft={draft} change={change} onSee={() => void ask(false)} />
      {problem && <Alert className="mt-3">{problem}</Alert>}
      {preview && (
        <SalePreviewTable
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
function useDraft({ currency, chosen }: Pick<SalesData, 'currency' | 'chosen'>) {
  const only = chosen.length > 0 ? chosen.map(({ id }) => id) : null;
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
      const body = bodyOf(draft, currency, plan && left.size > 0 ? ids.filter((id) => !left.has(id)) : only);
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

function DraftForm({ data: { stores, kinds, tags, currency, chosen }, draft, change, onSee }: DraftFormProps) {
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
      {chosen.length > 0 ? (
        <span title={chosen.map(({ title }) => title).join('\n')}>
          of {count(chosen.length, 'product')} from the range{' '}
          <Link href="/sales" className="text-primary underline">
            of all instead
          </Link>
        </span>
      ) : (
        <Select
          label="Goods"
          value={draft.good}
          choices={named('of every kind', kinds)}
          onChange={(good) => change({ good })}
        />
      )}
      {chosen.length === 0 && tags.length > 0 && (
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
