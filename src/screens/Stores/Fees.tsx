'use client';

import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FEE_OF, FEE_PER, type Fee, type FeeOf, type FeePer } from '@/core/pricing/fees';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { readDay, readPercent, withPart } from '../Money/section';
import type { FeeScope, FeesView } from './load';
import { dayAndTime } from '@/ui/when';

const OF_NAMES: Record<FeeOf, string> = {
  item: 'of the items',
  'item+shipping': 'of items and shipping',
  total: 'of all that is paid, with tax',
};
const PER_NAMES: Record<FeePer, string> = { item: 'an item', order: 'an order', listing: 'a listing' };

/** What a store takes, as it publishes it or as the seller knows it: each fee with its days. Everything saves itself, and every edit is kept. */
export function Fees({
  store,
  told: first,
  onSaved,
}: {
  store: { readonly id: string; readonly name: string; readonly channel: string; readonly currency: string };
  told: FeesView;
  onSaved: () => void;
}) {
  const [told, setTold] = useState(first);
  const [scope, setScope] = useState<FeeScope>('store');
  const [problem, setProblem] = useState<string | null>(null);
  const fees = told.own ?? told.published;
  const keep = (next: readonly Fee[] | null) =>
    void call<FeesView>('PUT', `/stores/${store.id}/fees`, { fees: next, scope }).then(
      (answer) => {
        setTold(answer);
        setProblem(null);
        onSaved();
      },
      (error: Error) => setProblem(error.message),
    );
  const put = (fee: Fee, next: Fee) => keep(fees.map((one) => (one === fee ? next : one)));
  const takenToday = new Set(told.today.map(({ id }) => id));
  return (
    <section className="mt-8 text-small">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 mb-1.5">
        <h2 className="font-display text-[17px]">Fees</h2>
        <span className="text-muted">{told.own ? 'As you typed it.' : `As ${store.channel} publishes it.`}</span>
        <Select
          label="What you change holds for"
          value={scope}
          choices={[
            { value: 'store', name: `${store.name} alone` },
            { value: 'channel', name: `all stores on ${store.channel} in ${store.currency}` },
          ]}
          onChange={setScope}
        />
        {told.own && (
          <Button kind="quiet" onClick={() => keep(null)}>
            As {store.channel} publishes it
          </Button>
        )}
      </div>
      {problem && <Alert className="mb-2">{problem}</Alert>}
      <ul className="border-t border-hairline">
        {fees.map((fee) => (
          <FeeLine
            key={fee.id}
            fee={fee}
            currency={fee.currency ?? store.currency}
            taken={takenToday.has(fee.id)}
            put={(next) => put(fee, next)}
            drop={() => keep(fees.filter((one) => one !== fee))}
          />
        ))}
      </ul>
      <Button
        kind="quiet"
        onClick={() =>
          keep([
            ...fees,
            { id: freeId(fees), label: 'Another fee', of: 'item', ratePpm: 0, per: 'order', fixedMinor: 0 },
          ])
        }
      >
        Add a fee
      </Button>
      <History history={told.history} currency={store.currency} />
    </section>
  );
}

const freeId = (fees: readonly Fee[]): string => {
  const ids = new Set(fees.map(({ id }) => id));
  return Array.from({ length: fees.length + 1 }, (_, i) => `own-${i + 1}`).find((id) => !ids.has(id))!;
};

function History({ history, currency }: Pick<FeesView, 'history'> & { currency: string }) {
  if (history.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-muted">Changed {history.length} times</summary>
      <ul className="mt-1">
        {history.map(({ scope: held, fees: then, by, at }, i) => (
          <li key={i} className="border-b border-hairline py-1">
            {dayAndTime(at)}, {by}, {held === 'store' ? 'this store' : 'all stores'}:{' '}
            {then === null ? 'as published' : then.map((fee) => feeWords(fee, currency)).join('; ')}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** A fee in a few words: `Commission, 5 % + 0.20 USD`. */
function feeWords({ label, ratePpm, fixedMinor, currency: own }: Fee, storeCurrency: string): string {
  const currency = own ?? storeCurrency;
  const parts = [
    ratePpm > 0 ? `${ratePpm / 10_000} %` : null,
    fixedMinor > 0 ? `${formatAmount(money(fixedMinor, currency))} ${currency}` : null,
  ].filter(Boolean);
  return `${label.split(',')[0]}, ${parts.join(' + ') || 'nothing'}`;
}

interface FeeProps {
  readonly fee: Fee;
  readonly currency: string;
  readonly put: (next: Fee) => void;
}

function FeeLine({ fee, currency, taken, put, drop }: FeeProps & { taken: boolean; drop: () => void }) {
  const [name] = fee.label.split(',');
  return (
    <li className={`border-b border-hairline py-1.5 ${taken ? '' : 'text-muted'}`}>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <EntryField
          label={`Name of ${name}`}
          showLabel={false}
          align="left"
          width="w-72"
          text={fee.label}
          read={(typed) => put({ ...fee, label: typed.trim().slice(0, 80) })}
        />
        <span>
          <EntryField
            label={`Share of ${name}`}
            showLabel={false}
            width="w-14"
            text={String(fee.ratePpm / 10_000)}
            read={(typed) => put({ ...fee, ratePpm: readPercent(typed, 0, 990_000) })}
          />{' '}
          %
        </span>
        <Select
          label={`What the share of ${name} is of`}
          quiet
          value={fee.of}
          choices={FEE_OF.map((value) => ({ value, name: OF_NAMES[value] }))}
          onChange={(of) => put({ ...fee, of })}
        />
        <Sum {...{ fee, currency, put }} part="fixedMinor" label={`and, ${currency}`} none="0" />
        <Select
          label={`What the sum of ${name} is for`}
          quiet
          value={fee.per}
          choices={FEE_PER.map((value) => ({ value, name: PER_NAMES[value] }))}
          onChange={(per) => put({ ...fee, per })}
        />
        <IconButton name={`Remove ${name}`} className="ml-auto" onClick={drop}>
          <Trash2 size={14} aria-hidden />
        </IconButton>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 mt-1 text-tiny">
        <Bounds fee={fee} currency={currency} put={put} />
        {!taken && <span>not taken today</span>}
      </div>
    </li>
  );
}

/** Between which sums a fee lies, the tax on it, and its days. */
function Bounds({ fee, currency, put }: FeeProps) {
  return (
    <>
      <Sum {...{ fee, currency, put }} part="minMinor" label="at least" none="none" />
      <Sum {...{ fee, currency, put }} part="maxMinor" label="at most" none="none" />
      <span>
        <EntryField
          label="tax on it"
          width="w-12"
          text={String((fee.taxPpm ?? 0) / 10_000)}
          read={(typed) => put(withPart(fee, 'taxPpm', readPercent(typed, 0, 1_000_000) || undefined))}
        />{' '}
        %
      </span>
      {(['firstDay', 'lastDay'] as const).map((part) => (
        <EntryField
          key={part}
          label={part === 'firstDay' ? 'from' : 'until'}
          align="left"
          width="w-24"
          text={fee[part] ?? 'always'}
          read={(typed) => put(withPart(fee, part, readDay(typed)))}
        />
      ))}
    </>
  );
}

function Sum({
  fee,
  currency,
  put,
  part,
  label,
  none,
}: FeeProps & { part: 'fixedMinor' | 'minMinor' | 'maxMinor'; label: string; none: string }) {
  const minor = fee[part];
  return (
    <EntryField
      label={label}
      width="w-16"
      text={minor === undefined ? none : formatAmount(money(minor, currency))}
      read={(typed) => {
        const empty = part !== 'fixedMinor' && /^(none|-|–|)$/i.test(typed.trim());
        put(withPart(fee, part, empty ? undefined : parseAmountMinor(typed, currency)));
      }}
    />
  );
}
