'use client';

import type { ProductDocument } from '@/core/document/document';
import { isTypicaError } from '@/core/errors';
import { setAimForAll, setAims } from '@/core/pricing/fixing';
import { readAim } from '@/core/pricing/price-sheet';
import { pricer } from '@/core/pricing/pricer';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { usePrices } from './priced';
import type { PriceWorld } from './prices';

export type Fixable = 'price' | 'profit' | 'margin' | 'markup';

/** What is fixed by typing: for some variants (null: all) of the prices for all stores or for one. */
export function useFixing(store: BenchStore | null) {
  const desk = useDesk('doc', 'edit');
  const { pricesAt } = usePrices();
  const { world } = pricesAt(store);
  const { outlet } = world;
  const storeId = store?.id ?? null;
  return (kind: Fixable, keys: readonly string[] | null, name: string) =>
    (typed: string): void => {
      const aim = readAim(kind, typed, outlet.currency);
      const fix = (d: ProductDocument) => (keys ? setAims(d, storeId, keys, aim) : setAimForAll(d, storeId, aim));
      refuseImpossible(fix(desk.doc), keys ?? Object.keys(desk.doc.variants), world);
      desk.edit(`Set ${kind} of ${name}${store ? ` in ${store.name}` : ''}`, fix);
    };
}

/** Throws a sentence where no price would meet what is typed, with fees, taxes and endings: nothing is left without a price by typing. */
function refuseImpossible(doc: ProductDocument, keys: readonly string[], world: PriceWorld): void {
  let price: ((key: string) => unknown) | null = null;
  for (const key of keys)
    try {
      price ??= pricer(doc, world);
      price(key);
    } catch (error) {
      if (isTypicaError(error, 'price-unsolvable')) throw error;
      // What lacks a cost or a rate lacked it before; that is told above the table.
      if (!isTypicaError(error)) throw error;
    }
}
