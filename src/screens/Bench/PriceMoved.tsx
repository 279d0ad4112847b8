'use client';

import { useState } from 'react';
import type { ProductDocument } from '@/core/document/document';
import { formatAmount, money } from '@/core/pricing/money';
import type { PricedVariant } from '@/core/pricing/pricer';
import { sameJson } from '@/core/json/bounds';
import { Button } from '@/ui/Button';
import { useDesk } from './desk';
import { usePrices } from './Price/priced';
import { aimText } from './Price/prices';

interface Seen {
  readonly doc: ProductDocument;
  readonly storeId: string | null;
  readonly one: PricedVariant | undefined;
}

/** What moved a price that nobody typed, in a sentence; null where it was typed, or did not move. */
export function moveWords(before: PricedVariant, now: PricedVariant): string | null {
  const { aim, retailMinor, terms } = now;
  if (retailMinor === before.retailMinor || aim.kind === 'retail' || !sameJson(aim, before.aim)) return null;
  const amount = (minor: number) => formatAmount(money(minor, terms.currency));
  const cost = terms.landed.totalMinor - before.terms.landed.totalMinor;
  const why = cost === 0 ? '' : `It costs ${amount(Math.abs(cost))} ${cost > 0 ? 'more' : 'less'}: `;
  const went = retailMinor > before.retailMinor ? 'rose' : 'fell';
  const price = `${why === '' ? 'The' : 'the'} price ${went} from ${amount(before.retailMinor)} to ${amount(retailMinor)} ${terms.currency}`;
  return `${why}${price} to keep ${aimText(aim, terms.currency)}.`;
}

/** A quiet line when a change elsewhere on the bench moved the price in the ledger. */
export function PriceMoved() {
  const { priceable: doc, store, variant, part, session } = useDesk('priceable', 'store', 'variant', 'part', 'session');
  const { priced } = usePrices();
  const one = priced.find(({ key }) => key === variant);
  const [seen, setSeen] = useState<Seen>({ doc, storeId: store?.id ?? null, one });
  const [says, setSays] = useState<string | null>(null);
  // Compared with what was shown before, while it is drawn: nothing outside of it is touched.
  if (seen.doc !== doc || seen.storeId !== (store?.id ?? null) || seen.one?.key !== one?.key) {
    const alike = seen.storeId === (store?.id ?? null) && seen.one?.key === one?.key;
    setSeen({ doc, storeId: store?.id ?? null, one });
    setSays(alike && part !== 'price' && seen.one && one ? moveWords(seen.one, one) : null);
  }
  if (says === null) return null;
  return (
    <p
      role="status"
      className="col-span-full border-t border-hairline bg-selection px-[18px] py-1 text-small flex items-baseline gap-4"
    >
      <span>{says}</span>
      <Button kind="quiet" onClick={() => session.undo()}>
        Undo
      </Button>
      <Button kind="quiet" onClick={() => setSays(null)}>
        Good
      </Button>
    </p>
  );
}
