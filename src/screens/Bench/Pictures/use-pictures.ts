'use client';

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { useDesk } from '../desk';
import type { PictureView } from '../load';

const NONE: ReadonlyMap<string, PictureView> = new Map();

/** Pictures of the product as the server has them, by what they show; those that are not made as the design is now are asked for. */
export function usePictures(storeId: string): { told: ReadonlyMap<string, PictureView>; error: string | null } {
  const { data } = useDesk('data');
  const path = `/products/${data.product.id}/pictures`;
  const shown = storeId === '' ? path : `${path}?store=${storeId}`;
  const { data: answer, error } = useQuery(
    {
      queryKey: ['picture', data.product.id, storeId],
      queryFn: async () => {
        const { revision, pictures } = await call<{ revision: number; pictures: PictureView[] }>('GET', shown);
        return {
          revision,
          missing: pictures.some((picture) => picture.state !== 'made'),
          told: new Map(pictures.map((picture) => [keyOf(picture), picture])),
        };
      },
      meta: { topics: ['product'] },
    },
    queries(),
  );
  const [refusal, setRefusal] = useState<string | null>(null);
  const asked = useRef('');
  useEffect(() => {
    const of = `${answer?.revision}/${storeId}`;
    if (!answer?.missing || asked.current === of) return;
    asked.current = of;
    call('POST', path).then(
      () => setRefusal(null),
      (problem: Error) => setRefusal(problem.message),
    );
  }, [answer, path, storeId]);
  return { told: answer?.told ?? NONE, error: refusal ?? error?.message ?? null };
}

/** What a picture shows: the same as `subjectOf` says of a document's. */
const keyOf = ({ shotId, imageId, color }: PictureView): string =>
  shotId === null ? `own/${imageId}` : `${shotId}/${color ?? ''}`;
