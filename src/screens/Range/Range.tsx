'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { useEvents } from '@/ui/events';
import { Select } from '@/ui/Select';
import { RangeTable } from './RangeTable';
import type { RangeData, RangeQuery } from './load';
import { RangeSearch } from './RangeSearch';
import { ShelvedTable } from './ShelvedTable';
import { countLine, rangeAddress, SHELF_NAMES, SORT_NAMES } from './view';

/** The page is read anew when something on it changed, at most this often, ms. */
const REFRESH_MS = 400;

/** Products down, stores across; a cell is a listing. */
export function Range(data: RangeData) {
  const { rows, asked, total, next } = data;
  const router = useRouter();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEvents((topic) => {
    if (!['listing', 'product', 'store', 'outcome', 'reset'].includes(topic) || timer.current) return;
    timer.current = setTimeout(() => {
      timer.current = null;
      router.refresh();
    }, REFRESH_MS);
  });
  const go = (part: Partial<RangeQuery>) => router.push(rangeAddress({ ...asked, ...part, after: null }));
  return (
    <div className="px-8 py-6 max-[1100px]:px-[18px]">
      <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <h1 className="font-display text-[24px] font-semibold">
          Range
          {total > 0 && (
            <span className="ml-4 font-sans text-small font-normal text-muted" role="status">
              {countLine(rows.length, total, asked)}
            </span>
          )}
        </h1>
        <span className="flex flex-wrap items-end gap-x-5 gap-y-2">
          <Link className="pb-1 text-small text-primary underline" href="/prices">
            Prices of many
          </Link>
          <Link className="pb-1 text-small text-primary underline" href="/sales">
            Sales
          </Link>
          <Link className="pb-1 text-small text-primary underline" href="/sends">
            Sends
          </Link>
          <Select
            label="Show"
            value={asked.shelf}
            choices={Object.entries(SHELF_NAMES).map(([value, name]) => ({ value, name }))}
            onChange={(shelf) => go({ shelf: shelf as RangeQuery['shelf'] })}
          />
          <Select
            label="Sort"
            value={asked.sort}
            choices={Object.entries(SORT_NAMES).map(([value, name]) => ({ value, name }))}
            onChange={(sort) => go({ sort: sort as RangeQuery['sort'] })}
          />
          <RangeSearch asked={asked} />
          <Link
            href="/blanks"
            className="rounded-paper bg-primary px-3 py-1.5 text-small font-semibold text-sheet hover:bg-primary-deep"
          >
            New product
          </Link>
        </span>
      </div>
      {rows.length === 0 ? (
        <Nothing asked={asked} />
      ) : asked.shelf === 'range' ? (
        <RangeTable {...data} onSort={(sort) => go({ sort })} />
      ) : (
        <ShelvedTable {...data} />
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

/** What an empty range is for, and the next step. */
function Nothing({ asked }: { asked: RangeQuery }) {
  if (asked.words)
    return (
      <p className="max-w-lg text-muted">
        No product here has “{asked.words}” in its title, or a SKU that begins so.{' '}
        <Link className="text-primary underline" href={rangeAddress({ ...asked, words: '', after: null })}>
          Show all
        </Link>
      </p>
    );
  if (asked.shelf !== 'range')
    return (
      <p className="max-w-lg text-muted">
        {asked.shelf === 'archived'
          ? 'No product is archived. What you archive leaves the range; restore it from here.'
          : 'Nothing was deleted in the last 30 days. What you delete can be restored from here for that long.'}
      </p>
    );
  const steps = [
    ['/blanks', 'Choose a blank', 'what you print on: a shirt, a mug, a poster'],
    ['/artwork', 'Upload artwork', 'PNG, JPEG, WebP or SVG'],
    ['/stores', 'Connect a store', 'where your products are sold'],
  ] as const;
  return (
    <div className="max-w-2xl border-t border-hairline">
      <p className="py-3 text-muted">
        This is where all your products stand against all your stores. None is here yet. Begin with any of these:
      </p>
      <ol>
        {steps.map(([href, name, says]) => (
          <li key={href} className="flex items-baseline gap-4 border-t border-hairline py-2.5">
            <Link className="w-44 font-semibold text-primary underline" href={href}>
              {name}
            </Link>
            <span className="text-small text-muted">{says}</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
