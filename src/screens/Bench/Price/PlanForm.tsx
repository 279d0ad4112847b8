'use client';

import { useState } from 'react';
import type { StorePlan } from '@/core/document/document';
import { followBase, followWith, setPlan } from '@/core/pricing/fixing';
import { formatAmount, formatMoney, minorDigits, money, parseAmountMinor, parsePercentPpm } from '@/core/pricing/money';
import { planFor } from '@/core/pricing/plan';
import { ruleText } from '@/core/pricing/store-rule';
import { endingStep, isEnding, WAYS, type Way } from '@/core/pricing/rounding';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { usePrices } from './priced';
import type { BenchStore } from '../load';

const WAY_NAMES: Record<Way, string> = { up: 'going up', down: 'going down', nearest: 'to the nearest' };

/** Endings that are offered, by how many decimals a currency has. */
const OFFERED = new Map([
  [0, ['00', '80', '50', '90']],
  [2, ['.99', '.95', '.50', '.00']],
  [3, ['.990', '.950', '.500', '.000']],
]);

/** How prices of all stores, or of one, are made: what they follow, how they end, who pays shipping, what goes into the parcel. */
export function PlanForm({ store }: { store: BenchStore | null }) {
  const desk = useDesk('data', 'doc', 'edit');
  const { list } = desk.data;
  const storeId = store?.id ?? null;
  const plan = planFor(desk.doc, store);
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 mt-3">
      {store && <Follows store={store} />}
      <Endings store={store} />
      <Select
        label="Shipping is"
        value={plan.shipping}
        choices={[
          { value: 'charged', name: 'paid by the buyer' },
          { value: 'folded', name: 'in the price' },
        ]}
        onChange={(shipping) => desk.edit('Set shipping', (d) => setPlan(d, storeId, { shipping }))}
      />
      {plan.shipping === 'charged' && <FreeShipping store={store} />}
      {list.inserts.length > 0 && (
        <Select
          label="In the parcel"
          value={plan.insert ?? ''}
          choices={[
            { value: '', name: 'nothing more' },
            ...list.inserts.map((one) => ({
              value: one.code,
              name: `${one.name}, ${formatMoney(money(one.costMinor, list.currency))} an order`,
            })),
          ]}
          onChange={(code) => desk.edit('Set insert', (d) => setPlan(d, storeId, { insert: code || null }))}
        />
      )}
    </div>
  );
}

/** What a store's prices follow, and with which difference. */
function Follows({ store }: { store: BenchStore }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const own = ownEntry(doc.price.stores, store.id);
  const difference = own?.differencePpm;
  const isOwn = Boolean(own?.aim) || Object.keys(own?.variants ?? {}).length > 0;
  const { rule } = store;
  const ruled = rule && (rule.aim || rule.differencePpm !== undefined) ? rule : null;
  const plain = ruled ? `follow the store’s rule: ${ruleText(ruled)}` : 'reach the same aims with its own fees';
  const way = isOwn ? 'own' : difference === undefined ? 'plain' : 'price';
  return (
    <>
      <Select
        label="Prices"
        value={way}
        choices={[
          { value: 'plain', name: plain },
          { value: 'price', name: 'are those for all stores and a difference' },
          ...(isOwn ? [{ value: 'own' as const, name: 'are its own' }] : []),
        ]}
        onChange={(next) => {
          if (next === 'plain')
            edit(ruled ? 'Follow the store’s rule' : 'Follow the aims for all stores', (d) => followBase(d, store.id));
          if (next === 'price')
            edit('Follow the prices for all stores', (d) => followWith(d, store.id, difference ?? 0));
        }}
      />
      {difference !== undefined && !isOwn && (
        <EntryField
          label="Difference"
          text={`${difference / 10_000} %`.replace('-', '−')}
          read={(typed) => {
            const ppm = parsePercentPpm(typed.replace('−', '-'));
            if (ppm < -900_000 || ppm > 9_000_000) throw new Error('A difference must be from −90 % to 900 %.');
            edit(`Set difference in ${store.name}`, (d) => followWith(d, store.id, ppm));
          }}
        />
      )}
    </>
  );
}

/** From which sum on the buyer pays nothing for shipping. */
function FreeShipping({ store }: { store: BenchStore | null }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const { currency } = usePrices().pricesAt(store).world.outlet;
  const storeId = store?.id ?? null;
  const free = planFor(doc, store).freeFromMinor ?? null;
  const own = storeId ? ownEntry(doc.price.stores, storeId)?.freeFromMinor : undefined;
  const shownIn = own === undefined ? doc.price.currency : currency;
  return (
    <>
      <EntryField
        label={`Free from, ${shownIn}`}
        text={free === null ? 'never' : formatAmount(money(free, shownIn))}
        read={(typed) => {
          const never = /^(never|none|-|–|)$/i.test(typed.trim());
          const minor = never ? null : parseAmountMinor(typed, storeId ? currency : doc.price.currency);
          if (minor !== null && minor <= 0)
            throw new Error('Shipping can be free from an amount above zero; leave it empty for never.');
          edit('Set free shipping', (d) => setPlan(d, storeId, { freeFromMinor: minor }));
        }}
      />
      {free !== null && (
        <span className="text-tiny text-muted">It is counted here; shops are not told: set it there too.</span>
      )}
    </>
  );
}

/** How prices end, which way they go there, and between which sums they are held. */
function Endings({ store }: { store: BenchStore | null }) {
  const desk = useDesk('data', 'doc', 'edit');
  const { pricesAt } = usePrices();
  const { data, doc } = desk;
  const storeId = store?.id ?? null;
  const { currency } = pricesAt(store).world.outlet;
  const plan = planFor(doc, store);
  const own = storeId ? ownEntry(doc.price.stores, storeId) : undefined;
  const [typing, setTyping] = useState(false);
  const offered = OFFERED.get(minorDigits(currency)) ?? [];
  const isOwn = plan.ending !== 'none' && plan.ending !== 'ladder' && !offered.includes(plan.ending);
  const hasLadder = Object.hasOwn(data.settings.ladders, currency);
  const set = (part: StorePlan, label: string) => desk.edit(label, (d) => setPlan(d, storeId, part));
  const ends = plan.ending !== 'none' && (plan.ending === 'ladder' ? hasLadder : endingStep(plan.ending, currency));
  return (
    <>
      <Select
        label="Prices end in"
        value={plan.ending}
        choices={[
          { value: 'none', name: 'any ending' },
          ...offered.map((value) => ({ value, name: value })),
          ...(isOwn ? [{ value: plan.ending, name: plan.ending }] : []),
          ...(hasLadder || plan.ending === 'ladder' ? [{ value: 'ladder', name: 'a price of your ladder' }] : []),
          { value: 'own', name: 'an ending of your own …' },
        ]}
        onChange={(ending) => {
          setTyping(ending === 'own');
          if (ending !== 'own') set({ ending }, 'Set ending');
        }}
      />
      {typing && (
        <EntryField
          label="Ending"
          width="w-14"
          text={isOwn ? plan.ending : ''}
          read={(typed) => {
            const ending = typed.trim().replace(',', '.');
            if (!isEnding(ending) || ending === 'none' || ending === 'ladder' || !endingStep(ending, currency))
              throw new Error(`Type up to four digits that a price in ${currency} can end in, such as ${offered[0]}.`);
            set({ ending }, 'Set ending');
            setTyping(false);
          }}
        />
      )}
      {plan.ending !== 'none' && !ends && (
        <span className="text-tiny text-muted">No price in {currency} ends so: it stays as calculated.</span>
      )}
      {ends && (
        <Select
          label="Rounded"
          value={plan.way ?? 'up'}
          choices={WAYS.map((value) => ({ value, name: WAY_NAMES[value] }))}
          onChange={(way) => set({ way }, 'Set rounding')}
        />
      )}
      {(['leastMinor', 'mostMinor'] as const).map((name) => {
        const of = storeId && own?.[name] === undefined ? doc.price.currency : currency;
        const sum = plan[name] ?? null;
        const word = name === 'leastMinor' ? 'Least' : 'Most';
        return (
          <EntryField
            key={name}
            label={`${word} price${sum === null ? '' : `, ${of}`}`}
            width="w-16"
            text={sum === null ? 'none' : formatAmount(money(sum, of))}
            read={(typed) => {
              const minor = /^(none|never|-|–|)$/i.test(typed.trim()) ? null : parseAmountMinor(typed, currency);
              if (minor !== null && minor <= 0) throw new Error('It is above zero; leave it empty for none.');
              set({ [name]: minor }, `Set ${word.toLowerCase()} price`);
            }}
          />
        );
      })}
    </>
  );
}
