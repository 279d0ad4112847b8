'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { count } from '@/core/words/count';
import { useEvents } from '@/ui/events';
import { Select } from '@/ui/Select';
import type { ShelvedData } from './load';
import { ShelvedTable } from './ShelvedTable';
import { SHELF_NAMES } from './view';

/** Products that are not in the range now, each with its way back. */
export function ShelvedPage(data: ShelvedData) {
  const { shelf, rows, total, next, after } = data;
  const router = useRouter();
  useEvents((topic) => {
    if (topic === 'product' || topic === 'reset') router.refresh();
  });
  return (
    <div className="px-8 py-6 max-[1100px]:px-[18px]">
      <div className="mb-4 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <h1 className="font-display text-[24px] font-semibold">
          Range
          <span className="ml-4 font-sans text-small font-normal text-muted" role="status">
            {count(total, 'product')} {SHELF_NAMES[shelf]}
          </span>
        </h1>
        <Select
          label="Show"
          value={shelf as string}
          choices={Object.entries(SHELF_NAMES).map(([value, name]) => ({ value, name }))}
          onChange={(one) => router.push(one === 'range' ? '/range' : `/range?in=${one}`)}
        />
      </div>
      {rows.length === 0 ? (
        <p className="max-w-lg text-muted">
          {shelf === 'archived'
            ? 'No product is archived. What you archive leaves the range; restore it from here.'
            : 'Nothing was deleted in the last 30 days. What you delete can be restored from here for that long.'}
        </p>
      ) : (
        <ShelvedTable rows={rows} shelf={shelf} />
      )}
      {(next !== null || after !== null) && (
        <nav aria-label="Pages" className="mt-4 flex gap-6 text-small">
          {after !== null && (
            <Link className="text-primary underline" href={`/range?in=${shelf}`}>
              First page
            </Link>
          )}
          {next !== null && (
            <Link className="text-primary underline" href={`/range?in=${shelf}&after=${encodeURIComponent(next)}`}>
              Next page
            </Link>
          )}
        </nav>
      )}
    </div>
  );
}
