'use client';

import { count } from '../count';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { useEvents } from '@/ui/events';
import { Mark } from '@/ui/Mark';
import { Select } from '@/ui/Select';
import type { RangeData } from './load';
import { RangeSearch } from './RangeSearch';
import { countLine, rangeAddress, SORT_NAMES } from './view';

/** Products down, stores across; a cell is a listing. */
export function Range({ stores, rows, asked, total, next }: RangeData) {
  const router = useRouter();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEvents((topic) => {
    if (!['listing', 'product', 'store', 'reset'].includes(topic) || timer.current) return;
    timer.current = setTimeout(() => {
      timer.current = null;
      router.refresh();
    }, 400);
  });
  return (
    <div className="px-8 py-6">
      <div className="mb-4 flex items-end justify-between gap-6">
        <h1 className="font-display text-[24px] font-semibold">
          Range
          {total > 0 && (
            <span className="ml-4 font-sans text-small font-normal text-muted" role="status">
              {countLine(rows.length, total, asked)}
            </span>
          )}
        </h1>
        <span className="flex items-end gap-6">
          <Link className="text-small text-primary underline pb-1" href="/prices">
            Prices of many
          </Link>
          <Link className="text-small text-primary underline pb-1" href="/sales">
            Sales
          </Link>
          <Select
            label="Sort"
            value={asked.sort}
            choices={Object.entries(SORT_NAMES).map(([value, name]) => ({ value, name }))}
            onChange={(sort) => router.push(rangeAddress({ ...asked, sort: sort as typeof asked.sort, after: null }))}
          />
          <RangeSearch asked={asked} />
        </span>
      </div>
      {rows.length === 0 && asked.words ? (
        <p className="text-muted max-w-lg">
          No product has “{asked.words}” in its title, or a SKU that begins so.{' '}
          <Link className="text-primary underline" href="/range">
            Show all
          </Link>
        </p>
      ) : rows.length === 0 ? (
        <p className="text-muted max-w-lg">
          This is where all your products stand against all your stores. Begin with a blank:{' '}
          <Link className="text-primary underline" href="/blanks">
            choose one
          </Link>{' '}
          and put your artwork on it.
        </p>
      ) : (
        <table className="text-small">
          <thead className="text-left text-muted border-y border-hairline">
            <tr>
              <th className="font-normal py-2 pr-10" colSpan={2}>
                Product
              </th>
              {stores.map((store) => (
                <th key={store.id} className="font-normal px-5 border-l border-hairline min-w-44">
                  <Link href={`/stores/${store.id}`} className="hover:text-ink">
                    {store.channel}
                  </Link>
                </th>
              ))}
              {stores.length === 0 && (
                <th className="font-normal px-5">
                  <Link className="text-primary underline" href="/stores">
                    Connect a store
                  </Link>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.id} className="border-b border-hairline">
                <td className="py-1.5 w-20">
                  {row.picture ? (
                    <img
                      src={row.picture}
                      alt=""
                      width={60}
                      height={60}
                      className="size-[60px] object-cover rounded-paper border border-hairline"
                    />
                  ) : (
                    <span className="grid size-[60px] place-items-center rounded-paper border border-dashed border-hairline text-tiny text-muted">
                      no artwork
                    </span>
                  )}
                </td>
                <td className="pr-10 min-w-72">
                  <Link href={`/products/${row.id}`} className="text-base font-semibold hover:text-primary">
                    {row.title}
                  </Link>
                  <span className="block text-muted">
                    {row.blank} · {row.partner} · {row.variants === 1 ? '1 variant' : `${row.variants} variants`}
                  </span>
                  {row.troubles.map((trouble) => (
                    <Link
                      key={trouble.kind}
                      href={`/products/${row.id}?part=variants`}
                      title={trouble.remedy}
                      className={`block w-fit border-l-[3px] pl-2 text-tiny hover:underline ${trouble.kind === 'ended' ? 'border-stop text-stop' : 'border-caution text-caution'}`}
                    >
                      {trouble.says}
                    </Link>
                  ))}
                </td>
                {row.cells.map((cell, i) => (
                  <td key={stores[i]!.id} className="px-5 border-l border-hairline">
                    <Link
                      href={`/products/${row.id}?part=stores`}
                      className="block hover:bg-selection -mx-2 px-2 py-1 rounded-paper"
                    >
                      <Mark mark={cell.mark} word={cell.word} />
                      <span className="block text-tiny text-muted pl-4">
                        {cell.visibility ??
                          (cell.broken > 0 ? `${count(cell.broken, 'problem')} to fix` : 'can be sent')}
                      </span>
                    </Link>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {(next !== null || asked.after !== null) && (
        <nav aria-label="Pages of the range" className="mt-4 flex gap-6 text-small">
          {asked.after !== null && (
            <Link className="text-primary underline" href={rangeAddress({ ...asked, after: null })}>
              First page
            </Link>
          )}
          {next !== null && (
            <Link className="text-primary underline" href={rangeAddress({ ...asked, after: next })}>
              Next page
            </Link>
          )}
        </nav>
      )}
    </div>
  );
}
