'use client';

import { setAimForAll, setAims } from '@/core/pricing/fixing';
import { readAim } from '@/core/pricing/price-sheet';
import { totalRatePpm } from '@/core/pricing/fees';
import { PPM } from '@/core/pricing/money';
import type { Aim } from '@/core/pricing/solve';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';

export type Fixable = 'price' | 'profit' | 'margin' | 'markup';

/** What is fixed by typing: for some variants (null: all) of the prices for all stores or for one. */
export function useFixing(store: BenchStore | null) {
  const desk = useDesk();
  const { outlet } = desk.pricesAt(store).world;
  const storeId = store?.id ?? null;
  return (kind: Fixable, keys: readonly string[] | null, name: string) =>
    (typed: string): void => {
      const aim = readAim(kind, typed, outlet.currency);
      refuseImpossible(aim, typed, totalRatePpm(outlet.fees));
      const label = `Set ${kind} of ${name}${store ? ` in ${store.name}` : ''}`;
      desk.edit(label, (d) => (keys ? setAims(d, storeId, keys, aim) : setAimForAll(d, storeId, aim)));
    };
}

/** Throws a sentence where fees leave nothing for the aim: then no price would be found. */
function refuseImpossible(aim: Aim, typed: string, takenPpm: number): void {
  if (aim.kind === 'retail') return;
  if (aim.kind === 'margin' && aim.ppm + takenPpm >= PPM)
    throw new Error(
      `A margin of ${typed.trim()} cannot be reached: with the store’s fees of ${takenPpm / 10_000} % nothing would be left for the cost.`,
    );
  if (takenPpm >= PPM)
    throw new Error(`The store’s fees take ${takenPpm / 10_000} % of the price; only a price can be fixed.`);
}
