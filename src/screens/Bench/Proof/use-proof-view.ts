'use client';

import { useMemo, useState } from 'react';
import type { Desk } from '../desk';
import type { ProofView } from './proof-view';
import { useProofAsker } from './use-proof';
import { firstShot, shotsInView } from './view';

/** The shot in view follows the area in view until another one is chosen. */
export function useProofView(
  desk: Pick<Desk, 'data' | 'artworks' | 'letterings' | 'variant' | 'areaKey' | 'geometryId'>,
): ProofView {
  const asking = useProofAsker(desk);
  const [wish, setWish] = useState<{ shotId: string; areaKey: string } | null>(null);
  const [open, setOpen] = useState<ProofView['open']>(null);
  const { data, variant, areaKey, geometryId } = desk;
  const shots = useMemo(() => shotsInView(data.blank, data.shots, variant), [data.blank, data.shots, variant]);
  const shot =
    (wish?.areaKey === areaKey ? shots.find((one) => one.id === wish.shotId) : undefined) ??
    firstShot(data.blank, shots, areaKey, geometryId);
  return useMemo(
    () => ({ asking, shots, shot, setShot: (shotId) => setWish({ shotId, areaKey }), open, setOpen }),
    [asking, shots, shot, open, areaKey],
  );
}
