'use client';

import Link from 'next/link';
import { Mark } from '@/ui/Mark';
import { SYNC_MARKS } from '@/core/sync/state';
import { count } from '@/core/words/count';
import type { RangeCell, RangeRow } from './load';
import { CellTick } from './ticks';

/** The main picture, which opens the product. */
export function Thumbnail({ row }: { row: RangeRow }) {
  return (
    <Link href={`/products/${row.id}`} tabIndex={-1} aria-hidden className="block size-12">
      {row.picture ? (
        <img
          src={row.picture}
          alt=""
          width={48}
          height={48}
          loading="lazy"
          className="size-12 max-w-none rounded-paper border border-hairline bg-board object-cover"
        />
      ) : (
        <span className="grid size-12 place-items-center rounded-paper border border-dashed border-edge text-center text-[10px] leading-tight text-muted">
          no artwork
        </span>
      )}
    </Link>
  );
}

/** The title, what it is made on, and what of its variants ended or is out of stock. */
export function ProductName({ row }: { row: RangeRow }) {
  return (
    <>
      <Link href={`/products/${row.id}`} className="text-base font-semibold hover:text-primary">
        {row.title || 'Untitled'}
      </Link>
      <span className="block text-tiny text-muted">
        {row.blank} · {row.partner} · {count(row.variants, 'variant')}
      </span>
      {row.troubles.map((trouble) => (
        <Link
          key={trouble.kind}
          href={`/products/${row.id}?part=variants`}
          title={trouble.remedy}
          className={`flex w-fit min-h-6 items-center border-l-[3px] pl-2 text-tiny hover:underline ${trouble.kind === 'ended' ? 'border-stop text-stop' : 'border-caution text-caution'}`}
        >
          {trouble.says}
        </Link>
      ))}
    </>
  );
}

/** What can be done about one that is not there: nothing while it is on its way. */
function standing({ word, broken }: RangeCell): string {
  if (word === SYNC_MARKS['on-its-way'].word) return 'being sent';
  if (word === SYNC_MARKS.refused.word && broken === 0) return 'see why';
  return broken > 0 ? `${count(broken, 'problem')} to fix` : 'can be sent';
}

/** Where a product stands in one store, with a box that takes it into the selection: with Shift, all from the last one. */
export function Cell({
  cell,
  row,
  storeId,
  storeName,
}: {
  cell: RangeCell;
  row: RangeRow;
  storeId: string;
  storeName: string;
}) {
  return (
    <span className="group relative -mx-2 block rounded-paper hover:bg-selection">
      <Link href={`/products/${row.id}?part=stores`} title={cell.fix ?? undefined} className="block py-1 pr-7 pl-2">
        <Mark mark={cell.mark} word={cell.word} />
        <span className="block pl-4 text-tiny text-muted">
          {cell.listings > 1 && `${cell.listings} listings, `}
          {cell.visibility ?? standing(cell)}
        </span>
      </Link>
      <CellTick row={row} storeId={storeId} storeName={storeName} />
    </span>
  );
}
