'use client';

import Link from 'next/link';
import { memo, useState } from 'react';
import { countryName } from '@/core/country-names';
import type { ShelfItem } from '@/core/shelf/shelf';
import { BlankPicture } from '../Blank/BlankPicture';
import { Favorite } from '../Blank/Favorite';
import { LEFT_OUT, rowTexts } from './view';

/** Swatches that fit in two lines of the column. */
const SWATCHES = 14;

interface ShelfRowProps {
  readonly item: ShelfItem;
  readonly currency: string;
  readonly compared: boolean;
  readonly full: boolean;
  /** Color families that are filtered by: the picture is in the first color of them. */
  readonly families: readonly string[];
  readonly onCompare: (item: ShelfItem) => void;
}

/** The cells of one blank. */
export const ShelfRow = memo(function ShelfRow({ item, currency, compared, full, families, onCompare }: ShelfRowProps) {
  const [pointed, setPointed] = useState<string | null>(null);
  const texts = rowTexts(item, currency);
  const asked = item.colors.find((color) => families.includes(color.family))?.code ?? null;
  const named = `${item.name}, ${item.partner.name}`;
  return (
    <>
      <label role="cell" className="grid size-8 place-items-center">
        <input
          type="checkbox"
          className="size-4 accent-primary"
          aria-label={`Compare ${named}`}
          title={full && !compared ? 'Four are compared already' : 'Add to comparison'}
          checked={compared}
          disabled={full && !compared}
          onChange={() => onCompare(item)}
        />
      </label>
      <span role="cell">
        <BlankPicture blank={item} color={pointed} first={asked} size={58} />
      </span>
      <span role="cell" className="min-w-0">
        <span className="flex items-center gap-1">
          <Link
            href={`/blanks/${item.id}`}
            className="block min-h-6 min-w-0 truncate text-base font-semibold hover:text-primary"
          >
            {item.name}
          </Link>
          <Favorite blankId={item.id} name={named} on={item.favorite} />
        </span>
        <span className="block truncate text-muted">
          {item.kind}, {item.material}
        </span>
      </span>
      <span role="cell" className={LEFT_OUT.technique}>
        {texts.technique}
      </span>
      <span role="cell" className="min-w-0">
        <span className="block truncate">{item.partner.name}</span>
        <span className="block truncate text-tiny text-muted">from {countryName(item.shipsFrom)}</span>
      </span>
      <Swatches colors={item.colors} onPoint={setPointed} />
      <Facts texts={texts} />
    </>
  );
});

/** The blank's colors; the picture is in the one that is pointed at. */
function Swatches({ colors, onPoint }: { colors: ShelfItem['colors']; onPoint: (code: string | null) => void }) {
  return (
    <span role="cell" className={`flex flex-wrap gap-[3px] ${LEFT_OUT.colors}`} onPointerLeave={() => onPoint(null)}>
      {colors.length === 0 && <span className="text-muted">one</span>}
      {colors.slice(0, SWATCHES).map((color) => (
        <span
          key={color.code}
          role="img"
          aria-label={color.name}
          title={color.name}
          className="inline-block size-3.5 rounded-[2px] border border-ink/25"
          style={{ background: color.hex }}
          onPointerEnter={() => onPoint(color.code)}
        />
      ))}
      {colors.length > SWATCHES && <span className="text-tiny text-muted">and {colors.length - SWATCHES}</span>}
    </span>
  );
}

/** Sizes, areas, time and costs. */
function Facts({ texts }: { texts: ReturnType<typeof rowTexts> }) {
  return (
    <>
      <span role="cell" className={LEFT_OUT.sizes}>
        {texts.sizes}
        {texts.choices && <span className="block text-tiny text-muted">{texts.choices}</span>}
      </span>
      <span role="cell" className={`min-w-0 ${LEFT_OUT.areas}`}>
        <span className="block truncate">{texts.areas}</span>
        <span className="block truncate font-mono text-[11px] text-muted">{texts.areaSize}</span>
      </span>
      <span role="cell" className={LEFT_OUT.making}>
        {texts.making}
      </span>
      <span role="cell" className="text-right">
        {texts.cost}
        {texts.listCost && <span className="block text-tiny text-muted">{texts.listCost}</span>}
      </span>
      <span role="cell" className="text-right">
        {texts.landed ? <span className="font-semibold">{texts.landed}</span> : <span aria-hidden>–</span>}
        <span className={`block text-tiny ${texts.stock ? 'text-caution' : 'text-muted'}`}>
          {texts.stock ?? texts.delivery}
        </span>
      </span>
    </>
  );
}
