'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { TableHead } from '@/ui/TableHead';
import { useEvents } from '@/ui/events';
import { dayAndTime } from '@/ui/when';
import type { SendsData } from './load';
import { VISIBILITY_WORDS } from './view';

const STATES = { planned: 'planned', begun: 'being sent', laid: 'begun', stopped: 'stopped' } as const;

/** The last groups of listings that were sent together, or are planned to be. */
export function SendsPage({ sends }: SendsData) {
  const router = useRouter();
  useEvents((topic) => {
    if (topic === 'send' || topic === 'reset') router.refresh();
  });
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12 text-small">
      <h1 className="font-display text-[24px] font-semibold mb-3">Sends</h1>
      {sends.length === 0 ? (
        <p className="text-muted max-w-lg">
          Nothing was sent in a group yet. Select products or single listings in the{' '}
          <Link className="text-primary underline" href="/range">
            range
          </Link>
          , then choose where they go: what would be sent is shown before anything is.
        </p>
      ) : (
        <table className="w-full">
          <TableHead className="border-y border-hairline" columns={[['Planned', 'py-2'], 'By', 'How', 'State']} />
          <tbody>
            {sends.map(({ id, by, state, paused, visibility, madeAt }) => (
              <tr key={id} className="border-b border-hairline">
                <td className="py-2">
                  <Link className="text-primary underline" href={`/sends/${id}`}>
                    {dayAndTime(madeAt)}
                  </Link>
                </td>
                <td>{by}</td>
                <td>{VISIBILITY_WORDS[visibility]}</td>
                <td className="text-muted">{paused ? 'paused' : STATES[state]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
