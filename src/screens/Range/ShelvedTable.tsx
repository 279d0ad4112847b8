'use client';

import { useRouter } from 'next/navigation';
import { Button } from '@/ui/Button';
import { TableHead } from '@/ui/TableHead';
import { dayText } from '@/ui/when';
import { remove, restore } from '../product-actions';
import type { ShelvedData } from './load';

/** Products that were archived or deleted, each with its way back. */
export function ShelvedTable({ rows, shelf }: Pick<ShelvedData, 'rows' | 'shelf'>) {
  const router = useRouter();
  const refresh = () => router.refresh();
  return (
    <>
      <p className="mb-3 max-w-2xl text-small text-muted">
        {shelf === 'archived'
          ? 'Archived products are not in the range. Their listings stay in the shops as they are.'
          : 'Deleted products are kept for 30 days, then they are gone for good.'}
      </p>
      <table className="w-full text-small">
        <TableHead
          className="border-y border-hairline"
          columns={[['Product', 'py-2'], 'Blank', ['Changed', 'text-right'], '(Actions)']}
        />
        <tbody>
          {rows.map(({ id, title, blank, partner, changedAt }) => (
            <tr key={id} className="border-b border-hairline">
              <td className="py-2 font-semibold">{title || 'Untitled'}</td>
              <td className="text-muted">
                {blank} · {partner}
              </td>
              <td className="text-right text-muted">{dayText(changedAt)}</td>
              <td className="w-64 py-1 pl-6 text-right">
                <span className="inline-flex gap-4">
                  <Button onClick={() => void restore({ id, title }, refresh)}>Restore</Button>
                  {shelf === 'archived' && (
                    <Button kind="quiet" onClick={() => void remove({ id, title }, refresh)}>
                      Delete
                    </Button>
                  )}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
