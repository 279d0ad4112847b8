'use client';

import { useState } from 'react';
import { call } from '@/ui/api';
import { toast } from '@/ui/toast';
import { saidWithUndo } from '@/ui/with-undo';
import type { ArtworkItem } from './load';

interface Change {
  readonly name?: string;
  readonly tags?: readonly string[];
}

/** Renames, tags and deletes an artwork, each with the way back. */
export function useChanges({ id, name, tags }: ArtworkItem, onChanged: () => void, onProblem: (says: string) => void) {
  const [deleting, setDeleting] = useState(false);
  const put = async (change: Change) => {
    await call('PATCH', `/artwork/${id}`, change);
    onChanged();
  };
  const change = async (next: Change): Promise<void> => {
    try {
      await put(next);
      const before: Change = next.name === undefined ? { tags } : { name };
      const did = next.name === undefined ? `The tags of ${name} were changed.` : `${name} is called ${next.name} now.`;
      saidWithUndo(did, () => put(before));
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const remove = async (): Promise<void> => {
    setDeleting(true);
    try {
      await call('DELETE', `/artwork/${id}`);
      onChanged();
      saidWithUndo(`${name} was deleted.`, async () => {
        await call('POST', `/artwork/${id}/restore`);
        onChanged();
      });
    } catch (error) {
      setDeleting(false);
      onProblem((error as Error).message);
    }
  };
  return { change, remove, deleting };
}
