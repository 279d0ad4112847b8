'use client';

import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { countryName } from '@/core/country-names';
import { setAims } from '@/core/pricing/fixing';
import { formatAmount, money } from '@/core/pricing/money';
import { losesMoney } from '@/core/pricing/pricer';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import type { PricedVariant } from '@/core/pricing/pricer';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { usePrices } from './priced';
import { stepped, tierRows, type PriceRow, type TierRow } from './prices';
import { useFixing, type Fixable } from './use-fixing';

/** Tiers of which it is said below the table why their floors are where they are; of the others it is said at the number. */
const MAX_REASONS = 6;

const COLUMNS: readonly [kind: Fixable, head: string, of: (row: PriceRow) => string][] = [
  ['price', 'Price', (row) => row.retail],
  ['profit', 'Profit', (row) => row.profit],
  ['margin', 'Margin', (row) => row.margin],
  ['markup', 'Markup', (row) => row.markup],
];

/** What all lines of the table share. */
interface Shared {
  readonly store: BenchStore | null;
  /** The outlets whose prices stand beside it. */
  readonly others: readonly (BenchStore | null)[];
  readonly selected: ReadonlySet<string>;
  readonly onSelect: (keys: readonly string[], on: boolean) => void;
}

const WIDTH = 'w-16';
const STICKY = 'sticky left-0 bg-sheet z-10';

/** Tiers, each opened to its variants; any of retail, profit, margin and markup is typed, the others follow. Beside it the other outlets' prices. */
export function TierTable({ store, selected, onSelect }: Omit<Shared, 'others'>) {
  const { data, doc } = useDesk('data', 'doc');
  const { pricesAt } = usePrices();
  const rows = tierRows(doc, data.blank, data.list, pricesAt(store).priced);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string) =>
    setOpen((all) => new Set(all.has(id) ? [...all].filter((one) => one !== id) : [...all, id]));
  const others = [null, ...data.stores].filter((one) => one?.id !== store?.id);
  const shared = { store, others, selected, onSelect };
  const keys = rows.flatMap((row) => row.variantKeys);
  return (
    <div data-wide className="overflow-x-auto border-y border-hairline bg-sheet">
      <table className="w-full text-small">
        <Head shared={shared} keys={keys} />
        <tbody>
          {rows.map((row) => [
            <Row
              key={row.id}
              row={row}
              shared={shared}
              open={open.has(row.id)}
              onOpen={row.variants.length > 0 ? () => toggle(row.id) : undefined}
            />,
            ...(open.has(row.id)
              ? row.variants.map((one) => <Row key={one.id} row={one} shared={shared} inner />)
              : []),
          ])}
        </tbody>
        <SetAll shared={shared} keys={keys} />
      </table>
      {rows.some(({ floorWhy }) => floorWhy !== '') && (
        <ul className="px-2 py-1.5 text-tiny text-muted border-t border-hairline">
          {rows.slice(0, MAX_REASONS).map((row) => (
            <li key={row.id}>
              Floor of {row.name}: {row.floor}
              {row.floorWhy && `, ${row.floorWhy}`}.
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Head({ shared: { selected, onSelect, others }, keys }: { shared: Shared; keys: readonly string[] }) {
  const { data } = useDesk('data');
  const chosen = keys.filter((key) => selected.has(key)).length;
  return (
    <thead className="text-muted border-b border-hairline">
      <tr>
        <th className={`font-normal text-left py-2 pl-2 ${STICKY}`}>
          <Tick label="all tiers" on={chosen === keys.length} part={chosen > 0} onChange={(on) => onSelect(keys, on)} />
          Tier
        </th>
        <th className="font-normal text-right pl-2 whitespace-nowrap">Landed</th>
        {COLUMNS.map(([kind, head]) => (
          <th key={kind} className="font-normal text-right pl-2">
            {head}
          </th>
        ))}
        <th className="font-normal text-right px-3">Floor</th>
        {others.map((other) => (
          <th
            key={other?.id ?? 'all'}
            className="font-normal text-right pl-3 pr-2 border-l border-hairline whitespace-nowrap"
          >
            {other ? `${other.shortName}, ${other.currency}` : `All, ${data.home.currency}`}
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** The line that sets what is selected, or all. */
function SetAll({ shared: { store, selected, others }, keys }: { shared: Shared; keys: readonly string[] }) {
  const fix = useFixing(store);
  const chosen = keys.filter((key) => selected.has(key));
  const some = chosen.length > 0;
  return (
    <tfoot>
      <tr className="bg-paper">
        <td className="py-1.5 pl-2 text-muted sticky left-0 bg-paper" colSpan={2}>
          {some ? `Set the ${chosen.length} selected` : 'Set all'}
        </td>
        {COLUMNS.map(([kind, head]) => (
          <td key={kind} className="text-right pl-2 py-1.5">
            <EntryField
              label={`${head} of ${some ? 'the selected' : 'all'}`}
              showLabel={false}
              width={WIDTH}
              text=""
              read={fix(kind, some ? chosen : null, some ? `${chosen.length} selected` : 'all')}
            />
          </td>
        ))}
        <td colSpan={1 + others.length} />
      </tr>
    </tfoot>
  );
}

function Row({
  row,
  shared: { store, others, selected, onSelect },
  open = false,
  onOpen,
  inner = false,
}: {
  row: PriceRow | TierRow;
  shared: Shared;
  open?: boolean;
  onOpen?: () => void;
  inner?: boolean;
}) {
  const on = row.variantKeys.filter((key) => selected.has(key)).length;
  return (
    <tr className={`border-b border-hairline ${inner ? 'text-muted' : ''}`}>
      <td className={`py-1 pl-2 pr-2 ${STICKY} ${inner ? 'pl-9' : ''}`}>
        <span className="flex items-center">
          <Tick
            label={row.name}
            on={on === row.variantKeys.length}
            part={on > 0}
            onChange={(now) => onSelect(row.variantKeys, now)}
          />
          {onOpen && (
            <button
              type="button"
              aria-expanded={open}
              aria-label={`${open ? 'Close' : 'Open'} the variants of ${row.name}`}
              onClick={onOpen}
              className="min-w-6 min-h-6 inline-flex items-center justify-center hover:bg-selection rounded-paper"
            >
              {open ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
            </button>
          )}
          <span className="leading-tight">
            <span className={inner ? '' : 'font-semibold'}>{row.name}</span>
            <span className="block text-tiny text-muted whitespace-nowrap">
              {[row.note, row.fixed].filter(Boolean).join(', ')}
              <Follow row={row} store={store} />
            </span>
          </span>
        </span>
      </td>
      <td className="text-right pl-2" title="making + shipping">
        {row.cost}
        <span className="block text-tiny text-muted whitespace-nowrap">{row.costParts}</span>
      </td>
      <Fixed row={row} store={store} />
      <td className="text-right px-3" title={row.floorWhy || undefined}>
        {row.floor}
        {row.floorTo && <span className="block text-tiny text-muted whitespace-nowrap">{row.floorTo}</span>}
      </td>
      {others.map((other) => (
        <OtherPrice key={other?.id ?? 'all'} row={row} store={other} />
      ))}
    </tr>
  );
}

/** Takes back what is fixed for these variants alone. */
function Follow({ row, store }: { row: PriceRow; store: BenchStore | null }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const storeId = store?.id ?? null;
  if (ownCount(doc, storeId, row.variantKeys) === 0) return null;
  return (
    <button
      type="button"
      className="ml-1.5 text-primary underline"
      onClick={() => edit(`Let ${row.name} follow again`, (d) => setAims(d, storeId, row.variantKeys, null))}
    >
      reset
    </button>
  );
}

/** Price, profit, margin and markup, each a field. */
function Fixed({ row, store }: { row: PriceRow; store: BenchStore | null }) {
  const fix = useFixing(store);
  return COLUMNS.map(([kind, head, of]) => {
    const read = fix(kind, row.variantKeys, row.name);
    return (
      <td key={kind} className="text-right pl-2 py-1">
        <EntryField
          label={`${head} of ${row.name}`}
          showLabel={false}
          width={WIDTH}
          text={of(row)}
          read={read}
          step={kind === 'price' || kind === 'profit' ? (by) => read(stepped(of(row), by)) : undefined}
        />
        {kind === 'price' && <PriceNotes row={row} />}
      </td>
    );
  });
}

function PriceNotes({ row }: { row: PriceRow }) {
  return (
    <>
      {row.losing > 0 && (
        <span className="block text-tiny text-stop whitespace-nowrap" role="status">
          {row.losing === row.variantKeys.length ? 'a loss' : `a loss on ${row.losing}`} to {countryName(row.losingTo!)}
        </span>
      )}
      {row.held && <span className="block text-tiny text-caution">at your {row.held}</span>}
      {row.mixed && <span className="block text-tiny text-caution">prices differ</span>}
    </>
  );
}

/** How many of these variants have something fixed for themselves. */
const ownCount = (
  doc: {
    readonly price: {
      readonly base: { readonly variants: object };
      readonly stores: { readonly [id: string]: { readonly variants?: object } };
    };
  },
  storeId: string | null,
  keys: readonly string[],
): number => {
  const fixed = (storeId === null ? doc.price.base.variants : ownEntry(doc.price.stores, storeId)?.variants) ?? {};
  return keys.filter((key) => Object.hasOwn(fixed, key)).length;
};

/** What the same variants cost in another store, and what is left there. */
function OtherPrice({ row, store }: { row: PriceRow; store: BenchStore | null }) {
  const { pricesAt } = usePrices();
  const fix = useFixing(store);
  const { priced, problem } = pricesAt(store);
  const own = priced.filter(({ key }) => row.variantKeys.includes(key));
  const [first] = tierRowsOf(own);
  if (!first)
    return (
      <td className="pl-3 pr-2 text-right border-l border-hairline text-tiny text-stop" title={problem ?? undefined}>
        no price
        <span className="block text-muted max-w-40 whitespace-normal">{problem}</span>
      </td>
    );
  const name = store ? store.shortName : 'all stores';
  return (
    <td className="pl-3 pr-2 text-right border-l border-hairline">
      <EntryField
        label={`Price of ${row.name} in ${name}`}
        showLabel={false}
        width={WIDTH}
        text={first.retail}
        read={fix('price', row.variantKeys, row.name)}
        step={(by) => fix('price', row.variantKeys, row.name)(stepped(first.retail, by))}
      />
      <span className={`block text-tiny ${first.loss ? 'text-stop' : 'text-muted'} whitespace-nowrap`}>
        {first.loss ? 'a loss: ' : 'left '}
        {first.left}
      </span>
    </td>
  );
}

const tierRowsOf = (priced: readonly PricedVariant[]) =>
  priced.slice(0, 1).map((one) => ({
    retail: formatAmount(money(one.retailMinor, one.terms.currency)),
    left: formatAmount(money(one.quote.profitMinor, one.terms.currency)),
    loss: priced.some(losesMoney),
  }));

function Tick({
  label,
  on,
  part,
  onChange,
}: {
  label: string;
  on: boolean;
  part: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label className="mr-1 inline-grid size-6 place-items-center align-middle">
      <input
        type="checkbox"
        aria-label={`Select ${label}`}
        className="size-3.5 accent-primary"
        checked={on}
        ref={(box) => {
          if (box) box.indeterminate = part && !on;
        }}
        onChange={(e) => onChange(e.target.checked)}
      />
    </label>
  );
}
