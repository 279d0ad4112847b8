'use client';

import { useState } from 'react';
import { count } from '@/core/words/count';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TableHead } from '@/ui/TableHead';
import { useAct } from '@/ui/use-act';
import type { ItemFixes, SendData } from './load';

/** What of a plan is not sent and can be fixed: shown with before and after, then taken in one go, each for its store alone. */
export function Fixable({ send, onDone }: { send: SendData['send']; onDone: () => void }) {
  const { act, busy, problem } = useAct();
  const [items, setItems] = useState<readonly ItemFixes[] | null>(null);
  const nameOf = new Map(send.stores.map(({ storeId, name }) => [storeId, name]));
  const look = () =>
    void act(async () => setItems((await call<{ items: ItemFixes[] }>('GET', `/sends/${send.id}/fixes`)).items));
  const take = () =>
    void act(async () => {
      await call('POST', `/sends/${send.id}/fixes`);
      setItems(null);
      onDone();
    });
  if (items === null)
    return (
      <p className="mt-4">
        <Button disabled={busy} onClick={look}>
          See what of it can be fixed
        </Button>
        {problem && <Alert className="mt-2">{problem}</Alert>}
      </p>
    );
  return (
    <section aria-label="What can be fixed" className="mt-6">
      <div className="mb-2 flex flex-wrap items-center gap-4">
        <h2 className="font-display text-[17px]">What can be fixed</h2>
        {items.length > 0 && (
          <Button disabled={busy} onClick={take}>
            Fix {count(items.length, 'listing')}, each for its store alone
          </Button>
        )}
        <Button kind="quiet" onClick={() => setItems(null)}>
          Close
        </Button>
      </div>
      {problem && <Alert className="mb-2">{problem}</Alert>}
      {items.length === 0 ? (
        <p className="text-muted">Nothing of it: what is broken needs your own words, artwork or answers.</p>
      ) : (
        <table className="w-full">
          <TableHead
            className="border-y border-hairline"
            columns={[['Product', 'py-2 pr-4'], ['Store', 'pr-4'], ['Fix', 'pr-4'], 'Before and after']}
          />
          <tbody>
            {items.flatMap(({ productId, title, storeId, number, fixes }) =>
              fixes.map((fix) => (
                <tr
                  key={`${productId} ${storeId} ${number} ${fix.says}`}
                  className="border-b border-hairline align-baseline"
                >
                  <td className="py-1.5 pr-4 font-semibold">
                    {title}
                    {number > 1 && <span className="font-normal text-muted"> listing {number}</span>}
                  </td>
                  <td className="pr-4">{nameOf.get(storeId)}</td>
                  <td className="pr-4 whitespace-nowrap">{fix.says}</td>
                  <td>
                    <del className="text-muted">{fix.before || 'nothing'}</del>{' '}
                    <ins className="no-underline">→ {fix.after}</ins>
                  </td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      )}
    </section>
  );
}
