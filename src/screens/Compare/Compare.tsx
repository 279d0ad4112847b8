'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState, type ReactNode } from 'react';
import { X } from 'lucide-react';
import { countryName } from '@/core/country-names';
import type { ComparedColor, ComparedSection } from '@/core/shelf/compare';
import { MAX_ITEMS } from '@/core/shelf/query';
import { toast } from '@/ui/toast';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Check } from '@/ui/Check';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { Swatch } from '@/ui/Mark';
import { calendarDay } from '@/ui/when';
import { BlankPicture } from '../Blank/BlankPicture';
import { allDestinations } from '../countries';
import type { CompareData } from './load';

/** Blanks side by side: what is the same steps back, what differs stands out. */
export function Compare({ comparison, problem, country }: CompareData) {
  if (!comparison)
    return (
      <div className="px-[18px] py-4 max-w-xl">
        <h1 className="font-display text-[24px] font-semibold mb-3">Compare blanks</h1>
        <Alert>{problem}</Alert>
        <p className="mt-3">
          <Link href="/blanks" className="text-primary underline underline-offset-2">
            Choose blanks
          </Link>
        </p>
      </div>
    );
  return <Side comparison={comparison} country={country} />;
}

type Comparison = NonNullable<CompareData['comparison']>;
type Go = (change: { ids?: readonly string[]; to?: readonly string[]; items?: number }) => void;

function Side({ comparison, country }: { comparison: Comparison; country: string }) {
  const router = useRouter();
  const [differing, setDiffering] = useState(false);
  const { blanks, destinations, items, currency, sections, colors } = comparison;
  const go: Go = (change) => {
    const params = new URLSearchParams([
      ...(change.ids ?? blanks.map((blank) => blank.id)).map((id) => ['id', id]),
      ...(change.to ?? destinations).map((to) => ['to', to]),
    ]);
    const count = change.items ?? items;
    if (count > 1) params.set('items', String(count));
    router.replace(`/blanks/compare?${params.toString()}`, { scroll: false });
  };
  const differ = sections.flatMap((section) => section.rows).filter((row) => row.differs).length;
  const all = sections.flatMap((section) => section.rows).length;
  return (
    <div className="px-[18px] pt-3 pb-10">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-2">
        <h1 className="font-display text-[24px] font-semibold">Compare blanks</h1>
        <Asked comparison={comparison} country={country} go={go} />
        <Check on={differing} onChange={setDiffering} className="ml-auto text-small">
          only what differs ({differ} of {all} lines)
        </Check>
      </div>
      <table className="w-full table-fixed text-small">
        <colgroup>
          <col className="w-44" />
          {blanks.map((blank) => (
            <col key={blank.id} />
          ))}
        </colgroup>
        <thead>
          <tr className="border-y border-hairline align-top">
            <td className="py-2 pl-2 text-tiny text-muted">
              Amounts in {currency}; in small type what the partner itself takes.
              <span className="block mt-1">
                <span className="text-kept font-semibold">●</span> the least of the line
              </span>
            </td>
            {blanks.map((blank) => (
              <BlankHead
                key={blank.id}
                blank={blank}
                onRemove={
                  blanks.length > 1
                    ? () => go({ ids: blanks.filter((one) => one.id !== blank.id).map((one) => one.id) })
                    : null
                }
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {sections.map((section) => (
            <Rows key={section.title} section={section} onlyDiffering={differing} columns={blanks.length} />
          ))}
          <Colors colors={colors} />
        </tbody>
      </table>
    </div>
  );
}

/** Where the parcels go, and how much is in them. */
function Asked({ comparison, country, go }: { comparison: Comparison; country: string; go: Go }) {
  const choices = useMemo(() => allDestinations(country), [country]);
  const { destinations, items } = comparison;
  return (
    <>
      {destinations.map((to, i) => (
        <CountryField
          key={i}
          label={i === 0 ? 'Landed cost to' : 'and to'}
          value={to}
          choices={choices.filter((choice) => choice.value === to || !destinations.includes(choice.value))}
          onChange={(code) => go({ to: destinations.map((old, j) => (j === i ? code : old)) })}
        />
      ))}
      <EntryField
        label="items in the parcel"
        width="w-8"
        text={String(items)}
        read={(typed) => {
          const n = Number(typed);
          if (!Number.isInteger(n) || n < 1 || n > MAX_ITEMS)
            throw new Error(`Enter 1 to ${MAX_ITEMS} items, not “${typed}”.`);
          go({ items: n });
        }}
        step={(by) => go({ items: Math.min(MAX_ITEMS, Math.max(1, items + Math.sign(by))) })}
      />
    </>
  );
}

function BlankHead({ blank, onRemove }: { blank: Comparison['blanks'][number]; onRemove: (() => void) | null }) {
  return (
    <th scope="col" className="border-l border-hairline py-2 pl-4 text-left font-normal">
      <span className="flex gap-3">
        <BlankPicture blank={blank.pictured} size={64} className="shrink-0" />
        <span className="min-w-0 flex-1">
          <Link href={`/blanks/${blank.id}`} className="text-base font-semibold hover:text-primary">
            {blank.name}
          </Link>
          <span className="block text-muted">
            {blank.partner}, from {countryName(blank.shipsFrom)}
          </span>
          <span className="block text-tiny text-muted">prices of {calendarDay(blank.listOf)}</span>
          <MakeHere blankId={blank.id} name={blank.name} />
        </span>
        {onRemove && (
          <IconButton name={`Remove ${blank.name}, ${blank.partner}`} onClick={onRemove}>
            <X size={15} aria-hidden />
          </IconButton>
        )}
      </span>
    </th>
  );
}

function Rows({
  section,
  onlyDiffering,
  columns,
}: {
  section: ComparedSection;
  onlyDiffering: boolean;
  columns: number;
}) {
  const rows = section.rows.filter((row) => !onlyDiffering || row.differs);
  if (rows.length === 0) return null;
  return (
    <>
      <SectionHead columns={columns}>{section.title}</SectionHead>
      {rows.map((row) => (
        <tr key={row.label} className={`border-t border-hairline align-top ${row.differs ? 'bg-sheet' : 'text-muted'}`}>
          <th scope="row" className={`py-1 pl-2 pr-3 text-left ${row.differs ? 'font-semibold' : 'font-normal'}`}>
            {row.label}
            {!row.differs && columns > 1 && <span className="text-tiny font-normal">, same</span>}
          </th>
          {row.cells.map((cell, i) => (
            <td key={i} className="border-l border-hairline py-1 pl-4 pr-2">
              {cell ? (
                <>
                  <span className={cell.least ? 'font-semibold text-kept' : ''}>
                    {cell.least && (
                      <span role="img" aria-label="least" className="mr-1">
                        ●
                      </span>
                    )}
                    {cell.text}
                  </span>
                  {cell.note && <span className="block text-tiny text-muted">{cell.note}</span>}
                </>
              ) : (
                <span className="text-muted">–</span>
              )}
            </td>
          ))}
        </tr>
      ))}
    </>
  );
}

function SectionHead({ columns, children }: { columns: number; children: ReactNode }) {
  return (
    <tr>
      <th
        colSpan={columns + 1}
        scope="colgroup"
        className="pl-2 pt-4 pb-1 text-left font-display text-[15px] font-normal"
      >
        {children}
      </th>
    </tr>
  );
}

function Colors({ colors }: Pick<Comparison, 'colors'>) {
  const columns = colors.apart.length;
  if (colors.common.length === 0 && colors.apart.every((list) => list.length === 0)) return null;
  return (
    <>
      <SectionHead columns={columns}>Colors</SectionHead>
      {columns > 1 && (
        <tr className="border-t border-hairline align-top">
          <th scope="row" className="py-1.5 pl-2 text-left font-normal">
            In all of them
          </th>
          <td colSpan={columns} className="border-l border-hairline py-1.5 pl-4">
            <Swatches colors={colors.common} />
          </td>
        </tr>
      )}
      <tr className="border-y border-hairline bg-sheet align-top">
        <th scope="row" className="py-1.5 pl-2 text-left font-semibold">
          {columns > 1 ? 'Not in all' : 'Colors'}
        </th>
        {colors.apart.map((list, i) => (
          <td key={i} className="border-l border-hairline py-1.5 pl-4">
            <Swatches colors={columns > 1 ? list : [...colors.common, ...list]} />
          </td>
        ))}
      </tr>
    </>
  );
}

function Swatches({ colors }: { colors: readonly ComparedColor[] }) {
  if (colors.length === 0) return <span className="text-muted">none</span>;
  return (
    <span className="flex flex-wrap gap-x-3 gap-y-1">
      {colors.map((color) => (
        <span key={color.name} className="inline-flex items-center gap-1.5">
          <Swatch hex={color.hex} name={color.name} />
          <span aria-hidden>{color.name}</span>
        </span>
      ))}
    </span>
  );
}

/** Makes a product on one of the compared blanks. */
function MakeHere({ blankId, name }: { blankId: string; name: string }) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    await call<{ id: string }>('POST', '/products', { blankId }).then(
      ({ id }) => router.push(`/products/${id}?part=variants`),
      (error: Error) => toast.error(error.message),
    );
    setBusy(false);
  };
  return (
    <Button className="mt-1.5" disabled={busy} aria-label={`Make a product on ${name}`} onClick={() => void make()}>
      {busy ? 'Making it …' : 'Make a product'}
    </Button>
  );
}
