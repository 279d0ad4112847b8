'use client';

import { useState } from 'react';
import { countryName } from '@/core/country-names';
import { colorOption, parseVariantKey } from '@/core/catalog/blank';
import { isTypicaError } from '@/core/errors';
import { termsFor } from '@/core/pricing/terms';
import type { PricedVariant } from '@/core/pricing/pricer';
import { variantName } from '@/core/variants/tiers';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { Details } from '@/ui/Details';
import { Select } from '@/ui/Select';
import { destinationChoices } from '../countries';
import { useDesk, type Desk } from './desk';
import { ledgerEntries, type LedgerEntry } from './ledger';
import { ratesOf, usePrices } from './Price/priced';
import type { PriceWorld } from './Price/prices';
import { calendarDay } from '@/ui/when';

const TONE = { plain: '', good: 'text-kept', bad: 'text-stop' } as const;

/** The strip of money: from price to what is left for the variant, store and destination in view. */
export function Ledger() {
  const { store, variant, country, goTo, part, priceable } = useDesk(
    'store',
    'variant',
    'country',
    'goTo',
    'part',
    'priceable',
  );
  const { priced, pricesAt } = usePrices();
  const entry = priced.find((p) => p.key === variant);
  const ledger = entry ? atDestination({ priceable, country }, entry, pricesAt(store).world) : null;
  // In a narrow window the price and what is left of it stay in view; the rest is one tap away.
  const [open, setOpen] = useState(false);
  const away = open ? '' : 'max-[900px]:hidden';
  return (
    <footer
      aria-label="Ledger"
      data-sticky
      className="col-span-full border-t-2 border-ink bg-sheet min-h-14 flex flex-wrap items-stretch pl-[18px] pr-4 max-[900px]:sticky max-[900px]:bottom-0 max-[900px]:z-20 max-[900px]:min-h-11"
    >
      <InView away={away} />
      {ledger?.entries.map((e) => (
        <Entry key={e.id} entry={e} currency={entry!.terms.currency} away={away} />
      ))}
      {ledger && entry && <Margin ledger={ledger} currency={entry.terms.currency} away={away} />}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="ml-auto hidden min-h-6 self-center px-2 text-small text-primary underline max-[900px]:block"
      >
        {open ? 'Less' : 'Ledger'}
      </button>
      {part !== 'stores' && (
        <span className="ml-auto self-center pl-4 py-1 max-[900px]:ml-0">
          <Button kind="primary" onClick={() => goTo('stores')} title="Ctrl+Enter">
            Send …
          </Button>
        </span>
      )}
    </footer>
  );
}

/** The variant, store and destination that the ledger speaks of. */
function InView({ away }: { away: string }) {
  const desk = useDesk(
    'data',
    'store',
    'variant',
    'country',
    'setVariant',
    'setStore',
    'setCountry',
    'priceable',
    'color',
  );
  const { data, store, variant, country } = desk;
  return (
    <div className={`flex flex-col justify-center py-1 pr-4 min-w-0 shrink-0 ${away}`}>
      <span className="flex gap-3">
        {variant ? (
          <Select
            label="Variant"
            quiet
            value={variant}
            choices={ledgerVariants(desk).map((key) => ({ value: key, name: variantName(data.blank, key) }))}
            onChange={desk.setVariant}
          />
        ) : (
          <span className="text-small text-muted">No variant chosen</span>
        )}
      </span>
      <span className="flex gap-3">
        <Select
          label="Store"
          quiet
          value={store?.id ?? ''}
          choices={[...data.stores.map((s) => ({ value: s.id, name: s.shortName })), { value: '', name: 'No store' }]}
          onChange={(id) => desk.setStore(id || null)}
        />
        <Select
          label="Destination"
          quiet
          value={country}
          choices={destinationChoices(country).map(({ value, name }) => ({ value, name: `to ${name}` }))}
          onChange={desk.setCountry}
        />
      </span>
    </div>
  );
}

/** One amount of the ledger; it opens to the sum behind it. */
function Entry({ entry: e, currency, away }: { entry: LedgerEntry; currency: string; away: string }) {
  const { data, country } = useDesk('data', 'country');
  const day = ratesOf(data).dayOf(data.list.currency, currency);
  return (
    <Details
      anchor="top start"
      className={`flex ${e.id === 'retail' || e.id === 'left' ? '' : away}`}
      buttonClass="text-left pl-3.5 pr-4 border-l border-hairline my-2.5 flex flex-col justify-center hover:bg-selection max-[900px]:my-1"
      panelClass="z-50 mb-2 min-w-72 rounded-paper border border-ink bg-sheet px-4 py-3 text-small"
      label={`${e.label.replace(/^[−+=] /, '')} ${e.amount}: show the sum behind it`}
      button={
        <>
          <span className="text-tiny text-muted whitespace-nowrap">
            {e.id === 'retail' ? `${e.label}, ${currency}` : e.label}
          </span>
          <span className={`text-[15px] font-semibold leading-tight ${TONE[e.tone]}`} data-testid={`ledger-${e.id}`}>
            {e.amount}
          </span>
        </>
      }
    >
      <table className="w-full">
        <tbody>
          {e.behind.map((line) => (
            <tr key={line.label} className="last:font-semibold">
              <td className="pr-8 py-0.5">{line.label}</td>
              <td className="text-right whitespace-nowrap">{line.amount}</td>
            </tr>
          ))}
          {e.behind.length > 1 && e.id !== 'left' && e.id !== 'retail' && e.id !== 'tax' && (
            <tr className="border-t border-hairline font-semibold">
              <td className="pr-8 py-0.5">Total</td>
              <td className="text-right">{e.amount}</td>
            </tr>
          )}
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-1.5 max-w-80">
        {e.says} In {currency}, one item to {countryName(country)}
        {day === null ? '' : `, rate of ${calendarDay(day)}`}.
      </p>
    </Details>
  );
}

function Margin({
  ledger,
  currency,
  away,
}: {
  ledger: ReturnType<typeof ledgerEntries>;
  currency: string;
  away: string;
}) {
  return (
    <div className={`pl-3.5 border-l border-hairline my-2.5 flex flex-col justify-center ${away}`}>
      <span className="text-tiny text-muted whitespace-nowrap">Margin · floor</span>
      <span className="text-[15px] font-semibold leading-tight whitespace-nowrap">
        <span data-testid="ledger-margin">{ledger.margin}</span> ·{' '}
        <span data-testid="ledger-floor" title={ledger.floorWhy || undefined}>
          {ledger.floor}
        </span>{' '}
        <span className="text-tiny font-normal text-muted">{currency}</span>
      </span>
      {ledger.floorBecause && <span className="text-tiny text-muted whitespace-nowrap">{ledger.floorBecause}</span>}
    </div>
  );
}

/** Chosen variants of the color in view. */
function ledgerVariants({ data, priceable, color }: Pick<Desk, 'data' | 'priceable' | 'color'>): string[] {
  const option = colorOption(data.blank);
  return data.blank.variants
    .filter(
      (v) =>
        Object.hasOwn(priceable.variants, v.key) &&
        (!option || color === null || ownEntry(parseVariantKey(v.key), option.code) === color),
    )
    .map((v) => v.key);
}

/** The ledger at the destination in view; the price is the one solved for where the store sells. */
function atDestination(
  { priceable, country }: Pick<Desk, 'priceable' | 'country'>,
  entry: PricedVariant,
  world: PriceWorld,
) {
  try {
    return ledgerEntries(entry, termsFor(priceable, entry.key, world, country));
  } catch (error) {
    if (isTypicaError(error)) return null;
    throw error;
  }
}
