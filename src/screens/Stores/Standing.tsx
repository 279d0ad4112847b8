'use client';

import { ownEntry } from '@/core/own-entry';
import { CHANGED_KINDS, type ChangedKind } from '@/core/sync/changed';
import { call } from '@/ui/api';
import { Select } from '@/ui/Select';
import { KIND_NAMES } from './kind-names';
import type { StoreData } from './load';

type Holds = 'ask' | 'ours' | 'theirs';
const HOLDS: readonly { readonly value: Holds; readonly name: string }[] = [
  { value: 'ask', name: 'ask' },
  { value: 'ours', name: 'ours holds' },
  { value: 'theirs', name: 'theirs holds' },
];

/** What holds where something was changed in the shop, by kind of field. */
export function Standing({ store, act }: { store: StoreData; act: (work: () => Promise<unknown>) => Promise<void> }) {
  const { standing } = store;
  const set = (kind: ChangedKind, holds: Holds) => {
    const { [kind]: _before, ...others } = standing;
    void act(() =>
      call('PATCH', `/stores/${store.id}`, { standing: holds === 'ask' ? others : { ...others, [kind]: holds } }),
    );
  };
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">When the shop changes something</h2>
      <div className="border-y border-hairline py-1.5">
        <ul className="grid gap-1">
          {CHANGED_KINDS.map((kind) => (
            <li key={kind} className="flex items-baseline justify-between gap-2">
              <span>{KIND_NAMES[kind]}</span>
              <Select
                label={KIND_NAMES[kind]}
                quiet
                value={ownEntry(standing, kind) ?? 'ask'}
                choices={HOLDS}
                onChange={(holds) => set(kind, holds)}
              />
            </li>
          ))}
        </ul>
        <p className="mt-1.5 text-muted">
          Ours holds: the next send puts ours back. Theirs holds: it is taken into the product for this store, as a
          revision. Each is written to the listing’s activity.
        </p>
      </div>
    </section>
  );
}
