'use client';

import { useState } from 'react';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';
import { saidWithUndo } from '@/ui/with-undo';
import { count } from '@/core/words/count';
import type { RangeData, RangeRow } from './load';
import { SendMany } from './SendMany';

/** What can be done with several products at once; one step back is beside the message. */
export function ManyBar({
  products,
  stores,
  asked,
  total,
  onDone,
  onClear,
}: Pick<RangeData, 'stores' | 'asked' | 'total'> & {
  products: readonly RangeRow[];
  onDone: () => void;
  onClear: () => void;
}) {
  const [busy, setBusy] = useState(false);
  const [sends, setSends] = useState(false);
  const [all, setAll] = useState(false);
  const n = all ? total : products.length;
  const act = async (method: string, path: string, did: string) => {
    setBusy(true);
    const done: RangeRow[] = [];
    try {
      for (const product of products) {
        await call(method, `/products/${product.id}${path}`);
        done.push(product);
      }
    } catch (error) {
      toast.error((error as Error).message);
    }
    setBusy(false);
    onDone();
    if (done.length > 0)
      saidWithUndo(`${count(done.length, 'product')} ${done.length === 1 ? 'was' : 'were'} ${did}.`, async () => {
        for (const { id } of done) await call('POST', `/products/${id}/restore`);
        onDone();
      });
  };
  return (
    <div
      role="group"
      aria-label="Selected products"
      className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 bg-selection px-3 py-2 text-small"
    >
      <span role="status">{count(n, 'product')} selected</span>
      {total > products.length && (
        <Button kind="quiet" onClick={() => setAll(!all)}>
          {all ? `Only the ${products.length} ticked here` : `Select all ${total.toLocaleString('en')} found`}
        </Button>
      )}
      {stores.length > 0 && (
        <Button disabled={busy} onClick={() => setSends(true)}>
          Send …
        </Button>
      )}
      <Button disabled={busy || all} onClick={() => void act('POST', '/archive', 'archived')}>
        Archive
      </Button>
      <Button disabled={busy || all} onClick={() => void act('DELETE', '', 'deleted')}>
        Delete
      </Button>
      <Button kind="quiet" onClick={onClear}>
        Clear the selection
      </Button>
      {sends && (
        <SendMany
          title={`Send ${count(n, 'product')}`}
          selected={all ? { found: { words: asked.words } } : { productIds: products.map(({ id }) => id) }}
          stores={stores}
          onClose={() => setSends(false)}
        />
      )}
    </div>
  );
}
