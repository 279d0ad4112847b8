'use client';

import type PQueue from 'p-queue';
import { useCallback, useRef, useState } from 'react';
import { upload } from '@/ui/api';
import { newId } from '@/ui/ids';
import { readyArtwork, type Looked } from './ready-artwork';

/** Files on their way at once; the others of a batch wait. */
const AT_ONCE = 4;

export interface Upload {
  readonly id: string;
  readonly name: string;
  /** How much of it is uploaded, 0 to 1. */
  readonly share: number;
  readonly error: string | null;
}

/** Where a file stands among those that came together. */
export interface InBatch {
  readonly index: number;
  readonly count: number;
}

export interface Uploads {
  readonly all: readonly Upload[];
  take(files: readonly File[]): void;
  dismiss(id: string): void;
  /** Dismisses every one that failed. */
  dismissFailed(): void;
}

/** Uploads files with progress, four at a time, and waits until each is processed; one that is refused stays with its reason. */
export function useUploads<T extends Looked>(onReady: (artwork: T, place: InBatch) => void): Uploads {
  const [all, setAll] = useState<readonly Upload[]>([]);
  const queue = useRef<PQueue | null>(null);
  const change = (id: string, part: Partial<Upload>) =>
    setAll((before) => before.map((one) => (one.id === id ? { ...one, ...part } : one)));
  const dismiss = useCallback((id: string) => setAll((before) => before.filter((one) => one.id !== id)), []);
  const send = async (id: string, file: File, place: InBatch) => {
    try {
      const taken = await upload<{ id: string }>(`/artwork?name=${encodeURIComponent(file.name)}`, file, (share) =>
        change(id, { share }),
      );
      change(id, { share: 1 });
      onReady(await readyArtwork<T>(taken.id), place);
      dismiss(id);
    } catch (problem) {
      change(id, { error: (problem as Error).message });
    }
  };
  const take = async (files: readonly File[]) => {
    const batch = files.map((file) => ({ id: newId(), file }));
    setAll((before) => [...before, ...batch.map(({ id, file }) => ({ id, name: file.name, share: 0, error: null }))]);
    queue.current ??= new (await import('p-queue')).default({ concurrency: AT_ONCE });
    for (const [index, { id, file }] of batch.entries())
      void queue.current.add(() => send(id, file, { index, count: batch.length }));
  };
  return {
    all,
    take: (files) => void take(files),
    dismiss,
    dismissFailed: () => setAll((before) => before.filter(({ error }) => error === null)),
  };
}
