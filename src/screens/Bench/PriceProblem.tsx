'use client';

import { usePrices } from './Price/priced';

/** Why variants cannot be priced. */
export function PriceProblem() {
  const { priceProblem } = usePrices();
  if (priceProblem === null) return null;
  return <p className="text-small text-stop border-l-[3px] border-stop pl-2 mt-2">{priceProblem}</p>;
}
