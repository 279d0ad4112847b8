'use client';

import { useEffect, useState } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { useDesk } from '../desk';
import type { hardlySeenOn } from '../Proof/seen-on';

const NONE: ReadonlyMap<string, readonly string[]> = new Map();

/** Colors of the blank on which something of the design has too little contrast in the shot in view, with the layers' names. What compares colors is loaded first. */
export function usePoorColors(): ReadonlyMap<string, readonly string[]> {
  const { data, designed, proof, artworks } = useDesk('data', 'designed', 'proof', 'artworks');
  const [check, setCheck] = useState<{ readonly hardlySeenOn: typeof hardlySeenOn } | null>(null);
  useEffect(() => {
    let left = false;
    void import('../Proof/seen-on').then((loaded) => left || setCheck(loaded));
    return () => {
      left = true;
    };
  }, []);
  const { shot } = proof;
  if (!check || !shot) return NONE;
  const mainColors = (id: string) => artworks.find((artwork) => artwork.id === id)?.facts?.mainColors ?? [];
  return new Map(
    (colorOption(data.blank)?.values ?? []).flatMap(({ code }) => {
      const names = check.hardlySeenOn(designed, data.blank, shot, code, mainColors);
      return names.length > 0 ? [[code, names] as const] : [];
    }),
  );
}
