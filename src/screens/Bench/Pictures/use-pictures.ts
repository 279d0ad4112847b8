'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
import { useDesk } from '../desk';
import type { PictureTold } from '../load';

/** While pictures are made, the list is read anew no more often than this. */
const READ_MS = 150;

/** Pictures of the product as the server has them, by what they show; those that are not made as the design is now are asked for. */
export function usePictures(): { told: ReadonlyMap<string, PictureTold>; error: string | null } {
  const { data, state } = useDesk();
  const { id } = data.product;
  const [told, setTold] = useState<ReadonlyMap<string, PictureTold>>(new Map());
  const [error, setError] = useState<string | null>(null);
  const asked = useRef(0);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const read = useCallback(async () => {
    try {
      const answer = await call<{ revision: number; pictures: PictureTold[] }>('GET', `/products/${id}/pictures`);
      setTold(new Map(answer.pictures.map((picture) => [keyOf(picture), picture])));
      setError(null);
      if (answer.pictures.some((picture) => picture.state !== 'made') && asked.current !== answer.revision) {
        asked.current = answer.revision;
        await call('POST', `/products/${id}/pictures`);
      }
    } catch (problem) {
      setError((problem as Error).message);
    }
  }, [id]);
  const soon = useCallback(() => {
    timer.current ??= setTimeout(() => {
      timer.current = null;
      void read();
    }, READ_MS);
  }, [read]);
  useEffect(() => {
    const first = setTimeout(() => void read());
    return () => {
      clearTimeout(first);
      if (timer.current) clearTimeout(timer.current);
      timer.current = null;
    };
  }, [read, state.revision]);
  useEvents((topic, payload) => {
    if ((topic === 'picture' && payload.productId === id) || topic === 'reset') soon();
  });
  return { told, error };
}

/** What a picture shows: the same as `subjectOf` says of a document's. */
const keyOf = ({ shotId, imageId, color }: PictureTold): string =>
  shotId === null ? `own/${imageId}` : `${shotId}/${color ?? ''}`;
