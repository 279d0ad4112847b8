'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Mark } from '@/ui/Mark';
import { dayText } from '@/ui/when';
import { count } from '../count';
import type { RangeCell, RangeData, RangeRow } from './load';
import { RowMenu } from './RowMenu';
import { priceLine } from './view';

/** The products of a page against the stores. */
export function RangeTable({ stores, rows }: Pick<RangeData, 'stores' | 'rows'>) {
  const router = useRouter();
  return (
    <table className="w-full text-small">
      <thead className="border-y border-hairline text-left text-muted">
        <tr>
          <th className="py-2 pr-6 font-normal" colSpan={2}>
            Product
          </th>
          <th className="px-4 text-right font-normal">Price</th>
          <th className="px-4 text-right font-normal max-[1100px]:hidden">Changed</th>
          {stores.map((store) => (
            <th key={store.id} className="min-w-36 border-l border-hairline px-4 font-normal">
              <Link href={`/stores/${store.id}`} className="hover:text-ink">
                {store.channel}
              </Link>
              <span className="block text-tiny">{store.name}</span>
            </th>
          ))}
          {stores.length === 0 && (
            <th className="px-4 font-normal">
              <Link className="text-primary underline" href="/stores">
                Connect a store
              </Link>
            </th>
          )}
          <th className="w-8">
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} className="border-b border-hairline">
            <td className="w-14 py-1">
              <Link href={`/products/${row.id}`} tabIndex={-1} aria-hidden className="block w-fit">
                <Thumbnail row={row} />
              </Link>
            </td>
            <td className="min-w-56 pr-6">
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
            </td>
            <td className="px-4 text-right whitespace-nowrap">
              <Link href={`/products/${row.id}?part=price`} className="hover:text-primary">
                {priceLine(row.prices)}
              </Link>
            </td>
            <td className="px-4 text-right whitespace-nowrap text-muted max-[1100px]:hidden">
              {dayText(row.changedAt)}
            </td>
            {row.cells.map((cell, i) => (
              <td key={stores[i]!.id} className="border-l border-hairline px-4">
                <Cell cell={cell} productId={row.id} />
              </td>
            ))}
            {stores.length === 0 && <td />}
            <td>
              <RowMenu product={row} onChange={() => router.refresh()} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Thumbnail({ row }: { row: RangeRow }) {
  return row.picture ? (
    <img
      src={row.picture}
      alt=""
      width={48}
      height={48}
      loading="lazy"
      className="size-12 rounded-paper border border-hairline bg-board object-cover"
    />
  ) : (
    <span className="grid size-12 place-items-center rounded-paper border border-dashed border-edge text-center text-[10px] leading-tight text-muted">
      no artwork
    </span>
  );
}

/** Where a product stands in one store. */
function Cell({ cell, productId }: { cell: RangeCell; productId: string }) {
  return (
    <Link
      href={`/products/${productId}?part=stores`}
      title={cell.fix ?? undefined}
      className="-mx-2 block rounded-paper px-2 py-1 hover:bg-selection"
    >
      <Mark mark={cell.mark} word={cell.word} />
      <span className="block pl-4 text-tiny text-muted">
        {cell.visibility ?? (cell.broken > 0 ? `${count(cell.broken, 'problem')} to fix` : 'can be sent')}
      </span>
    </Link>
  );
}
