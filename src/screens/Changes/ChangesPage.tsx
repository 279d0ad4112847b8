'use client';

import Link from 'next/link';
import { TableHead } from '@/ui/TableHead';
import { dayAndTime } from '@/ui/when';
import type { ChangesData } from './load';
import { STATE_WORDS } from './view';

/** The latest changes of many products, done or only planned. */
export function ChangesPage({ changes }: ChangesData) {
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12 text-small">
      <h1 className="mb-3 font-display text-[24px] font-semibold">Changes of many</h1>
      {changes.length === 0 ? (
        <p className="max-w-lg text-muted">
          Nothing was changed for many products at once yet. Select products in the{' '}
          <Link className="text-primary underline" href="/range">
            range
          </Link>{' '}
          and choose a change: what it would do is shown before anything is done.
        </p>
      ) : (
        <table className="w-full">
          <TableHead className="border-y border-hairline" columns={[['What', 'py-2'], 'State', 'By', 'Planned']} />
          <tbody>
            {changes.map(({ id, title, state, by, madeAt }) => (
              <tr key={id} className="border-b border-hairline">
                <td className="py-2">
                  <Link className="text-primary underline" href={`/changes/${id}`}>
                    {title}
                  </Link>
                </td>
                <td>{STATE_WORDS[state]}</td>
                <td>{by}</td>
                <td className="text-muted">{dayAndTime(madeAt)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
