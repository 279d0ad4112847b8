'use client';

import { useState } from 'react';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { toast } from '@/ui/toast';
import { saidWithUndo } from '@/ui/with-undo';
import { count } from '@/core/words/count';
import type { ArtworkItem } from './load';
import { changedTags, readTags } from './view';

/** Puts tags on several files at once, or takes them off; one step back is beside the message. */
export function TagMany({
  items,
  onDone,
  onClear,
}: {
  items: readonly ArtworkItem[];
  onDone: () => void;
  onClear: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [busy, setBusy] = useState(false);
  const put = async (wanted: readonly { readonly id: string; readonly tags: readonly string[] }[]) => {
    for (const { id, tags } of wanted) await call('PATCH', `/artwork/${id}`, { tags });
    onDone();
  };
  const go = async (way: 'add' | 'remove') => {
    const tags = readTags(typed);
    const before = items.map(({ id, tags: own }) => ({ id, tags: own }));
    const wanted = items.map(({ id, tags: own }) => ({ id, tags: changedTags(own, tags, way) }));
    setBusy(true);
    try {
      await put(wanted);
      setTyped('');
      const did = way === 'add' ? 'added to' : 'removed from';
      saidWithUndo(`${tags.join(', ')}: ${did} ${count(items.length, 'file')}.`, () => put(before));
    } catch (error) {
      toast.error((error as Error).message);
    }
    setBusy(false);
  };
  const nothing = readTags(typed).length === 0;
  return (
    <div
      role="group"
      aria-label="Ticked files"
      className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2 bg-selection p-3"
    >
      <div className="w-72">
        <TextField
          label={`Tags of ${count(items.length, 'ticked file')}`}
          hint="several with commas"
          value={typed}
          onChange={setTyped}
          onEnter={() => void (nothing || go('add'))}
        />
      </div>
      <Button disabled={busy || nothing} onClick={() => void go('add')}>
        Add
      </Button>
      <Button disabled={busy || nothing} onClick={() => void go('remove')}>
        Remove
      </Button>
      <Button kind="quiet" onClick={onClear}>
        Untick all
      </Button>
    </div>
  );
}
