'use client';

import { followBase, followWith, setPlan } from '@/core/pricing/fixing';
import { formatAmount, formatMoney, money, parseAmountMinor, parsePercentPpm } from '@/core/pricing/money';
import { planFor } from '@/core/pricing/plan';
import { ENDINGS, type Ending } from '@/core/pricing/solve';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';

const ENDING_NAMES: Record<Ending, string> = {
  none: 'as it comes',
  '.99': '.99',
  '.95': '.95',
  '.50': '.50',
  '.00': '.00',
};

/** How prices of all stores, or of one, are made: what they follow, how they end, who pays shipping, what goes into the parcel. */
export function PlanForm({ store }: { store: BenchStore | null }) {
  const desk = useDesk();
  const { data, doc } = desk;
  const storeId = store?.id ?? null;
  const { currency } = desk.pricesAt(store).world.outlet;
  const plan = planFor(doc, storeId);
  const own = storeId ? ownEntry(doc.price.stores, storeId) : undefined;
  const difference = own?.differencePpm;
  const ways =
    own?.aim || Object.keys(own?.variants ?? {}).length > 0 ? 'own' : difference !== undefined ? 'price' : 'aim';
  const free = plan.freeFromMinor ?? null;
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 mt-3">
      {store && (
        <Select
          label="Prices"
          value={ways}
          choices={[
            { value: 'aim', name: 'reach the same aims with its own fees' },
            { value: 'price', name: 'are those for all stores and a difference' },
            ...(ways === 'own' ? [{ value: 'own' as const, name: 'are its own' }] : []),
          ]}
          onChange={(way) => {
            if (way === 'aim') desk.edit('Follow the aims for all stores', (d) => followBase(d, store.id));
            if (way === 'price')
              desk.edit('Follow the prices for all stores', (d) => followWith(d, store.id, difference ?? 0));
          }}
        />
      )}
      {store && difference !== undefined && ways !== 'own' && (
        <EntryField
          label="Difference"
          text={`${difference / 10_000} %`.replace('-', '−')}
          read={(typed) => {
            const ppm = parsePercentPpm(typed.replace('−', '-'));
            if (ppm < -900_000 || ppm > 9_000_000) throw new Error('A difference must be from −90 % to 900 %.');
            desk.edit(`Set difference in ${store.name}`, (d) => followWith(d, store.id, ppm));
          }}
        />
      )}
      <Select
        label="Prices end in"
        value={plan.ending}
        choices={ENDINGS.map((value) => ({ value, name: ENDING_NAMES[value] }))}
        onChange={(ending) => desk.edit('Set ending', (d) => setPlan(d, storeId, { ending }))}
      />
      <Select
        label="Shipping is"
        value={plan.shipping}
        choices={[
          { value: 'charged', name: 'paid by the buyer' },
          { value: 'folded', name: 'in the price' },
        ]}
        onChange={(shipping) => desk.edit('Set shipping', (d) => setPlan(d, storeId, { shipping }))}
      />
      {plan.shipping === 'charged' && (
        <EntryField
          label={`Free from, ${own?.freeFromMinor === undefined ? doc.price.currency : currency}`}
          text={
            free === null
              ? 'never'
              : formatAmount(money(free, own?.freeFromMinor === undefined ? doc.price.currency : currency))
          }
          read={(typed) => {
            const never = /^(never|none|-|–|)$/i.test(typed.trim());
            const minor = never ? null : parseAmountMinor(typed, storeId ? currency : doc.price.currency);
            if (minor !== null && minor <= 0)
              throw new Error('Shipping can be free from a sum above zero on; leave it empty for never.');
            desk.edit('Set free shipping', (d) => setPlan(d, storeId, { freeFromMinor: minor }));
          }}
        />
      )}
      {free !== null && plan.shipping === 'charged' && (
        <span className="text-tiny text-muted">It is counted here; shops are not told: set it there too.</span>
      )}
      {data.list.inserts.length > 0 && (
        <Select
          label="In the parcel"
          value={plan.insert ?? ''}
          choices={[
            { value: '', name: 'nothing more' },
            ...data.list.inserts.map((one) => ({
              value: one.code,
              name: `${one.name}, ${formatMoney(money(one.costMinor, data.list.currency))} an order`,
            })),
          ]}
          onChange={(code) => desk.edit('Set insert', (d) => setPlan(d, storeId, { insert: code || null }))}
        />
      )}
    </div>
  );
}
