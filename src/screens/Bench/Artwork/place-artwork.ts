'use client';

import { useCallback } from 'react';
import { addLayer } from '@/bench/placing';
import type { InBatch } from '@/screens/use-uploads';
import { newId } from '@/ui/ids';
import { useDeskNow, type BenchArtwork } from '../desk';

/** Puts a ready artwork on the area in view and selects it; one of several at its place among them. */
export function usePlaceArtwork(): (artwork: BenchArtwork, inBatch?: InBatch) => void {
  const now = useDeskNow();
  return useCallback(
    (artwork, inBatch) => {
      const { facts } = artwork;
      if (!facts) return;
      const { data, areaKey, geometryId, edit, select } = now();
      const layerId = newId();
      const area = data.blank.areas.find((a) => a.key === areaKey)!;
      edit(`Place ${artwork.name}`, (doc) =>
        addLayer(
          doc,
          data.blank,
          area,
          geometryId,
          { id: artwork.id, name: artwork.name, widthPx: facts.widthPx, heightPx: facts.heightPx },
          layerId,
          inBatch,
        ),
      );
      select(layerId);
    },
    [now],
  );
}
