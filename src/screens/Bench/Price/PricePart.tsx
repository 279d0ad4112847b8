'use client';

import { later } from '@/ui/later';
import Link from 'next/link';
import { useState } from 'react';
import { countryName } from '@/core/country-names';
import { setAims } from '@/core/pricing/fixing';
import { formatMoney, money } from '@/core/pricing/money';
import type { SheetChange } from '@/core/pricing/price-sheet';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import type { PricedVariant } from '@/core/pricing/pricer';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { Everywhere } from './Everywhere';
import { PlanForm } from './PlanForm';
import { usePrices } from './priced';
import { aimText } from './prices';
import { PriceTools } from './PriceTools';
import { TierTable } from './TierTable';

/** Where a store's one price meets its aims, in words. */
function aimsWords({ aimsAt, sellsTo }: BenchStore, first: PricedVariant | undefined): string {
  if (aimsAt === 'mix' && first?.mix) return 'Aims are met on the whole where you sell.';
  const where = countryName(first?.country ?? sellsTo[0]!);
  return aimsAt === 'worst'
    ? `Aims are met to every country; ${where} leaves least.`
    : `Aims are met to ${where}; look under Where it sells for the others.`;
}

const Bundles = later(() => import('./Bundles').then((m) => m.Bundles));
const PriceHistory = later(() => import('./PriceHistory').then((m) => m.PriceHistory));
const ShownPrices = later(() => import('./ShownPrices').then((m) => m.ShownPrices));
const WhatIf = later(() => import('./WhatIf').then((m) => m.WhatIf));
const PricesCsv = later(() => import('../CsvSheet').then((m) => m.CsvSheet<SheetChange>));
const Charts = later(() => import('./Charts').then((module) => module.Charts), <p className="text-muted">Drawing …</p>);

const VIEWS = [
  ['table', 'Prices'],
  ['charts', 'Charts'],
  ['what-if', 'What if'],
  ['everywhere', 'Where it sells'],
  ['bundles', 'Bundles'],
  ['history', 'History'],
] as const;
type View = (typeof VIEWS)[number][0];

const tab = (on: boolean) => (on ? 'font-semibold border-b border-primary' : 'text-muted hover:text-ink');

/** Prices by tier: type retail, profit, margin or markup, the others follow. For all stores, or for one; what they are made of; what if. */
export function PricePart() {
  const { data, store, priceScope: scope } = useDesk('data', 'store', 'priceScope');
  const { pricesAt } = usePrices();
  const own = scope === 'store' ? store : null;
  const { priced, problem, unpriced, world } = pricesAt(own);
  const [view, setView] = useState<View>('table');
  const { currency } = world.outlet;
  const { rateMarginPpm } = data.settings;
  return (
    <div className="px-7 py-5">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-1">
        <h2 className="font-display text-[20px] font-semibold">Price</h2>
        <ScopeTabs />
        <div role="tablist" aria-label="Views of prices" className="ml-auto flex gap-4 text-small">
          {VIEWS.map(([id, name]) => (
            <button
              key={id}
              type="button"
              role="tab"
              aria-selected={view === id}
              className={tab(view === id)}
              onClick={() => setView(id)}
            >
              {name}
            </button>
          ))}
        </div>
      </div>
      <p className="text-small text-muted mb-3">
        {own
          ? `With ${own.shortName}’s fees. What you type here holds for ${own.shortName} alone. ${aimsWords(own, priced[0])}`
          : 'Before any store’s fees. Each store turns a price into its currency, or reaches the aim with its own fees.'}
      </p>
      {problem && (
        <Alert className="mb-3">
          {problem}
          {priced.length > 0 && ` ${unpriced} of ${unpriced + priced.length} variants have no price; the others stay.`}
        </Alert>
      )}
      {priced.length === 0 && view !== 'history' ? (
        <p className="text-muted">
          {problem ? 'Fix that first.' : 'Choose colors and sizes first; each has its cost.'}
        </p>
      ) : view === 'table' ? (
        <PricesView store={own} />
      ) : view === 'charts' ? (
        <Charts store={own} />
      ) : view === 'what-if' ? (
        <WhatIf store={own} />
      ) : view === 'everywhere' ? (
        <Everywhere store={own} />
      ) : view === 'bundles' ? (
        <Bundles store={own} />
      ) : (
        <>
          <ShownPrices key={own?.id ?? 'base'} store={own} />
          <h3 className="text-small font-medium mb-1">What was fixed</h3>
          <PriceHistory />
        </>
      )}
      {priced[0] && view === 'table' && (
        <p className="text-tiny text-muted mt-4 max-w-3xl">
          The floor is the lowest price at which nothing is lost to any country that it is sold to, after everything:
          making, the partner’s shipping
          {own ? ', the store’s fees' : ''} and taxes. Costs of {data.blank.partner.name} in {data.list.currency}
          {data.list.currency === currency
            ? ''
            : `, at ${formatMoney(money(100, data.list.currency))} = ${formatMoney(world.rates.convertCost(money(100, data.list.currency), currency))}${rateMarginPpm > 0 ? ` (with a safety margin of ${rateMarginPpm / 10_000} %)` : ''}`}
          .
        </p>
      )}
    </div>
  );
}

/** Whether prices hold for all stores or for one of them. */
function ScopeTabs() {
  const { data, store, priceScope, setPriceScope, setStore } = useDesk(
    'data',
    'store',
    'priceScope',
    'setPriceScope',
    'setStore',
  );
  const own = priceScope === 'store' ? store : null;
  return (
    <div role="tablist" aria-label="Prices for" className="flex flex-wrap gap-x-4">
      <button type="button" role="tab" aria-selected={!own} className={tab(!own)} onClick={() => setPriceScope('base')}>
        All stores, {data.home.currency}
      </button>
      {data.stores.map((one) => (
        <button
          key={one.id}
          type="button"
          role="tab"
          aria-selected={own?.id === one.id}
          className={tab(own?.id === one.id)}
          onClick={() => {
            if (one.id !== store?.id) setStore(one.id);
            setPriceScope('store');
          }}
        >
          {one.shortName}, {one.currency}
        </button>
      ))}
    </div>
  );
}

/** The table of tiers, how prices are made up, and what is done with many of them. */
function PricesView({ store: own }: { store: BenchStore | null }) {
  const { pricesAt } = usePrices();
  const { priced } = pricesAt(own);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const chosen = new Set([...selected].filter((key) => priced.some((one) => one.key === key)));
  return (
    <>
      <TierTable
        store={own}
        selected={chosen}
        onSelect={(keys, on) =>
          setSelected((all) => new Set(on ? [...all, ...keys] : [...all].filter((key) => !keys.includes(key))))
        }
      />
      <PlanForm store={own} />
      <PriceTools store={own} selected={chosen} />
      <div className="flex flex-wrap items-baseline gap-4 mt-3">
        <FromFile />
        <Link href="/sales" className="inline-flex min-h-6 items-center text-primary underline text-small">
          Sales
        </Link>
      </div>
    </>
  );
}

/** Prices as a file that a spreadsheet changes. */
function FromFile() {
  const { data, edit } = useDesk('data', 'edit');
  return (
    <PricesCsv
      what="Prices"
      path="prices"
      columns={['Variant', 'Where', 'Was', 'Now']}
      rowOf={({ variantKey, storeId, was, now }) => {
        const where = data.stores.find((one) => one.id === storeId);
        const money = where?.currency ?? data.home.currency;
        return [
          variantName(data.blank, variantKey),
          where?.name ?? 'all stores',
          aimText(was, money),
          aimText(now, money),
        ];
      }}
      apply={(changes) =>
        edit(`Prices from a file (${changes.length})`, (d) =>
          changes.reduce((doc, { storeId, variantKey, now }) => setAims(doc, storeId, [variantKey], now), d),
        )
      }
    />
  );
}
