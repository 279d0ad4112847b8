'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';
import { countryName } from '@/core/country-names';
import { dearShipping } from '@/core/pricing/dear-shipping';
import { raiseToFloors, setPlan } from '@/core/pricing/fixing';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import { losesMoney } from '@/core/pricing/pricer';
import { planFor, roundingFor } from '@/core/pricing/plan';
import { sellsTo } from '@/core/pricing/terms';
import { AIMS_AT, type AimsAt } from '@/core/pricing/outlet';
import { BASKETS } from '@/core/pricing/shipping-models';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { TableHead } from '@/ui/TableHead';
import { count } from '@/core/words/count';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { leftEverywhere, mixOf, type LeftAt, type LeftEverywhere } from './everywhere-view';
import { usePrices } from './priced';
import type { PricesAt } from './prices';
import { ShippingWords } from './ShippingWords';
import { useAimsAt } from './use-aims-at';

const AIM_NAMES: Record<AimsAt, string> = {
  first: 'to the first country',
  worst: 'to every country',
  mix: 'on the whole where you sell',
};

/** What is left by destination and basket, on the whole where the seller sells, and what can be done where it is a loss. */
export function Everywhere({ store }: { store: BenchStore | null }) {
  const { doc, data, variant } = useDesk('doc', 'data', 'variant');
  const at = usePrices().pricesAt(store);
  const { world, priced } = at;
  const one = priced.find(({ key }) => key === variant) ?? priced[0];
  const setAimsAt = useAimsAt(store);
  if (!one) return <p className="text-muted">Choose colors and sizes first.</p>;
  const { currency } = world.outlet;
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const dear = dearShipping(one);
  return (
    <div className="grid gap-6">
      <section>
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-1">
          <h3 className="text-small font-medium">
            What is left at {amount(one.retailMinor)} {currency}, by destination and basket
          </h3>
          {store && (
            <Select
              label="Its aims are met"
              value={store.aimsAt}
              choices={AIMS_AT.filter((aims) => aims !== 'mix' || data.settings.mix.length > 0).map((value) => ({
                value,
                name: AIM_NAMES[value],
              }))}
              onChange={setAimsAt}
            />
          )}
        </div>
        <LossRemedies store={store} at={at} />
        <DearShipping store={store} dear={dear} retail={`${amount(one.retailMinor)} ${currency}`} amount={amount} />
        <LeftTable
          left={leftEverywhere(doc, world, one, mixOf(data.settings.mix, data.home.country))}
          amount={amount}
          below={(country) => (
            <SoldThere
              store={store}
              country={country}
              losing={[...one.losses, ...dear].some((where) => where.country === country)}
              sold={sellsTo(doc, world.outlet).includes(country)}
            />
          )}
        />
        <p className="text-tiny text-muted mt-1">
          Left of the whole order, for the variant in the ledger. The share of each destination is kept under{' '}
          <Link href="/money" className="text-primary underline">
            Rates and rules
          </Link>
          .
        </p>
      </section>
      <ShippingWords one={one} world={world} />
    </div>
  );
}

function LeftTable({
  left: { lines, whole },
  amount,
  below,
}: {
  left: LeftEverywhere;
  amount: (minor: number) => string;
  /** What is said under the name of a country. */
  below: (country: string) => ReactNode;
}) {
  return (
    <table className="w-full text-small bg-sheet border-y border-hairline">
      <TableHead
        className="border-b border-hairline"
        columns={[
          ['To', 'py-1.5 pl-2'],
          ['Share', 'text-right'],
          ...BASKETS.map((items) => [count(items, 'item'), 'text-right last:pr-2'] as const),
        ]}
      />
      <tbody>
        {lines.map(({ country, weight, sent, baskets }) => (
          <tr key={country} className="border-b border-hairline">
            <td className="py-1.5 pl-2">
              {countryName(country)}
              {below(country)}
            </td>
            <td className="text-right text-muted">{weight || '–'}</td>
            {sent ? (
              baskets.map((q, i) => <Left key={i} left={q} amount={amount} />)
            ) : (
              <td colSpan={BASKETS.length} className="text-right pr-2 text-muted">
                the partner does not send there
              </td>
            )}
          </tr>
        ))}
        <tr className="bg-paper font-semibold">
          <td className="py-1.5 pl-2" colSpan={2}>
            On the whole
          </td>
          {whole.map((q, i) => (
            <Left key={i} left={q} amount={amount} />
          ))}
        </tr>
      </tbody>
    </table>
  );
}

function Left({ left, amount }: { left: LeftAt | null; amount: (minor: number) => string }) {
  return (
    <td className={`text-right last:pr-2 ${left && left.profitMinor < 0 ? 'text-stop' : ''}`}>
      {left ? amount(left.profitMinor) : '–'}
      {left?.marginPpm != null && (
        <span className="block text-tiny font-normal text-muted">{formatPercent(left.marginPpm)}</span>
      )}
    </td>
  );
}

/** How many variants lose money somewhere, and what mends all of them. */
function LossRemedies({ store, at: { priced, world } }: { store: BenchStore | null; at: PricesAt }) {
  const desk = useDesk('doc', 'edit');
  const { doc } = desk;
  const losing = priced.filter(losesMoney);
  if (losing.length === 0) return null;
  const storeId = store?.id ?? null;
  const mendable = losing.filter(({ floor }) => floor.minor !== null);
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 border-l-[3px] border-stop pl-3 my-2 text-small" role="status">
      <span>
        <span className="font-semibold text-stop">A loss</span> on {losing.length} of {priced.length} variants to one
        destination or more.
      </span>
      {mendable.length > 0 && (
        <Button
          kind="quiet"
          onClick={() =>
            desk.edit(`Raise ${mendable.length} prices to their floors`, (d) =>
              raiseToFloors(d, storeId, mendable, roundingFor(d, world), world.outlet.currency),
            )
          }
        >
          Raise {mendable.length === 1 ? 'it to its floor' : 'them to their floors'}
        </Button>
      )}
      {planFor(doc, store).shipping === 'folded' && (
        <Button
          kind="quiet"
          onClick={() => desk.edit('Let buyers pay shipping', (d) => setPlan(d, storeId, { shipping: 'charged' }))}
        >
          Let buyers pay shipping
        </Button>
      )}
    </p>
  );
}

/** Where a buyer pays more for sending one item than for the good, and what mends it. */
function DearShipping({
  store,
  dear,
  retail,
  amount,
}: {
  store: BenchStore | null;
  dear: readonly { readonly country: string; readonly chargedMinor: number }[];
  retail: string;
  amount: (minor: number) => string;
}) {
  const { edit } = useDesk('edit');
  const [worst] = dear;
  if (!worst) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 border-l-[3px] border-warn pl-3 my-2 text-small" role="status">
      <span>
        <span className="font-semibold text-warn">Shipping is dearer than the good</span> to{' '}
        {countryName(worst.country)}
        {dear.length > 1 && ` and ${dear.length - 1} more`}: a buyer pays {amount(worst.chargedMinor)} for sending what
        costs {retail}. Few do.
      </span>
      <Button
        kind="quiet"
        onClick={() =>
          edit('Fold shipping into the price', (d) => setPlan(d, store?.id ?? null, { shipping: 'folded' }))
        }
      >
        Fold it into the price
      </Button>
    </p>
  );
}

/** Whether a product is sold to a country in a store, and what can be done about it. */
function SoldThere({
  store,
  country,
  losing,
  sold,
}: {
  store: BenchStore | null;
  country: string;
  losing: boolean;
  sold: boolean;
}) {
  const { doc, data, edit } = useDesk('doc', 'data', 'edit');
  if (!store?.sellsTo.includes(country))
    return store && <span className="block text-tiny text-muted">no sale there</span>;
  const name = countryName(country);
  const notTo = ownEntry(doc.price.stores, store.id)?.notTo ?? {};
  if (!sold) {
    const { [country]: _again, ...rest } = notTo;
    return (
      <span className="block text-tiny text-muted">
        not sold there{' '}
        <button
          type="button"
          className="text-primary underline"
          onClick={() => edit(`Sell to ${name} again`, (d) => setPlan(d, store.id, { notTo: rest }))}
        >
          sell there again
        </button>
      </span>
    );
  }
  if (!losing) return null;
  return (
    <span className="block text-tiny">
      <button
        type="button"
        className="text-primary underline"
        onClick={() =>
          edit(`Do not sell to ${name}`, (d) =>
            setPlan(d, store.id, {
              notTo: { ...ownEntry(d.price.stores, store.id)?.notTo, [country]: true },
            }),
          )
        }
      >
        do not sell there
      </button>{' '}
      <Link
        className="text-primary underline"
        href={`/blanks?kind=${encodeURIComponent(data.blank.kind)}&to=${country}&sort=landed`}
      >
        other blanks sent there
      </Link>
    </span>
  );
}
