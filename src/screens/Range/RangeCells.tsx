'use client';

import Link from 'next/link';
import { SYNC_MARKS } from '@/core/sync/state';
import { count } from '@/core/words/count';
import { Mark } from '@/ui/Mark';
import type { RangeCell, RangeRow, RangeStore } from './load';
import { cellLine, leftLine, priceLine } from './view';

/** Address of the main picture as a small one. */
function pictureOf({ id, picture }: RangeRow): string | null {
  if (!picture) return null;
  const color = picture.color === null ? '' : `color=${encodeURIComponent(picture.color)}&`;
  return `/api/v1/products/${id}/mock-ups/${picture.shotId}?${color}size=proof&revision=${picture.revision}`;
}

/** The main picture, which opens the product. */
export function Thumbnail({ row }: { row: RangeRow }) {
  const picture = pictureOf(row);
  return (
    <Link href={`/products/${row.id}`} tabIndex={-1} aria-hidden className="block size-12 shrink-0">
      {picture ? (
        <img
          src={picture}
          alt=""
          width={48}
          height={48}
          loading="lazy"
          className="size-12 max-w-none rounded-paper border border-hairline bg-board object-cover"
        />
      ) : (
        <span className="grid size-12 place-items-center rounded-paper border border-dashed border-edge text-center text-[10px] leading-tight text-muted">
          {row.isDue ? '…' : 'no artwork'}
        </span>
      )}
    </Link>
  );
}

interface Note {
  readonly says: string;
  readonly title: string;
  readonly part: string;
  readonly stops: boolean;
}

/** The one thing that is worst about a product beside its listings. */
function worstOf({ finding, findings, troubles }: RangeRow): Note | null {
  const ended = troubles.find(({ kind }) => kind === 'ended');
  const others = findings > 1 ? ` (and ${findings - 1} more)` : '';
  const found = (stops: boolean): Note | null =>
    finding && { says: finding.says + others, title: finding.says, part: 'artwork', stops };
  if (finding?.severity === 'stop') return found(true);
  const trouble = ended ?? troubles[0];
  if (trouble) return { says: trouble.says, title: trouble.remedy, part: 'variants', stops: ended !== undefined };
  return finding?.severity === 'warn' ? found(false) : null;
}

/** The title, what it is made on, and what is worst about it. */
export function ProductName({ row }: { row: RangeRow }) {
  const worst = worstOf(row);
  return (
    <span className="min-w-0 flex-1">
      <Link href={`/products/${row.id}`} className="block truncate font-semibold hover:text-primary" title={row.title}>
        {row.title || 'Untitled'}
      </Link>
      <span className="block truncate text-tiny text-muted">
        {row.blank} · {row.partner} · {count(row.variants, 'variant')}
      </span>
      {worst && (
        <Link
          href={`/products/${row.id}?part=${worst.part}`}
          title={worst.title}
          className={`block truncate border-l-[3px] pl-1.5 text-tiny hover:underline ${worst.stops ? 'border-stop text-stop' : 'border-caution text-caution'}`}
        >
          {worst.says}
        </Link>
      )}
    </span>
  );
}

/** Where a product stands in one store: state, what is to be said of it, and its prices with what the worst leaves. */
export function Cell({ cell, row, store }: { cell: RangeCell | undefined; row: RangeRow; store: RangeStore }) {
  if (!cell) return <span className="text-tiny text-muted">{row.isDue ? 'being worked out …' : '–'}</span>;
  const price = priceLine(cell, store.currency);
  const left = leftLine(cell, store.currency);
  return (
    <span className={`block min-w-0 ${row.isDue ? 'opacity-60' : ''}`}>
      <span className="flex items-baseline gap-1.5">
        <Link
          href={`/products/${row.id}?part=stores`}
          tabIndex={-1}
          title={cell.says ?? undefined}
          className="hover:underline"
        >
          <Mark {...SYNC_MARKS[cell.state]} />
        </Link>
        <span className="truncate text-tiny text-muted" title={cell.says ?? undefined}>
          {cellLine(cell)}
        </span>
      </span>
      {price && (
        <span className="block truncate pl-4 text-tiny tabular-nums text-muted">
          {price}
          {left && <span className={cell.underFloor ? 'text-stop' : ''}> · {left}</span>}
        </span>
      )}
    </span>
  );
}
