'use client';

import { useState } from 'react';
import { CHANGED_KINDS, type ChangedKind } from '@/core/sync/changed';
import { count } from '@/core/words/count';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { toast } from '@/ui/toast';
import { KIND_NAMES } from './kind-names';
import type { StoreData } from './load';

interface Changed {
  readonly listings: number;
  readonly looked: number;
  readonly kinds: { readonly [kind in ChangedKind]?: number };
}

/** Listings that the shop changed: in which kinds of fields, and which side holds in all of them. */
export function ChangedThere({
  store,
  busy,
  act,
}: {
  store: StoreData;
  busy: boolean;
  act: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const [changed, setChanged] = useState<Changed | null>(null);
  if (store.changedThere === 0) return null;
  const path = `/stores/${store.id}/changed`;
  const settle = (kind: ChangedKind, hold: 'ours' | 'theirs') =>
    void act(async () => {
      await call('POST', path, { kind, hold });
      toast('It is settled listing by listing. What a product cannot take stays for you to look at.');
      setChanged(null);
    });
  return (
    <section className="mb-5 border-l-[3px] border-caution pl-3 text-small" aria-label="Changed in the shop">
      <p>
        {count(store.changedThere, 'listing')} {store.changedThere === 1 ? 'was' : 'were'} changed in the shop.{' '}
        {changed === null && (
          <Button
            kind="quiet"
            disabled={busy}
            onClick={() => void act(async () => setChanged(await call<Changed>('GET', path)))}
          >
            See in which fields
          </Button>
        )}
      </p>
      {changed !== null && (
        <ul className="mt-1 max-w-[560px]">
          {CHANGED_KINDS.map((kind) => [kind, changed.kinds[kind] ?? 0] as const)
            .filter(([, n]) => n > 0)
            .map(([kind, n]) => (
              <li key={kind} className="flex items-baseline gap-4 border-t border-hairline py-1">
                <span className="flex-1">{KIND_NAMES[kind]}</span>
                <span className="w-24 text-muted">{count(n, 'listing')}</span>
                <Button kind="quiet" disabled={busy} onClick={() => settle(kind, 'ours')}>
                  Keep ours
                </Button>
                <Button kind="quiet" disabled={busy} onClick={() => settle(kind, 'theirs')}>
                  Take theirs
                </Button>
              </li>
            ))}
          {changed.looked < changed.listings && (
            <li className="py-1 text-muted">Counted in the first {changed.looked}; what is chosen holds for all.</li>
          )}
        </ul>
      )}
    </section>
  );
}
