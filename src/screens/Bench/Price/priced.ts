import memoizeOne from 'memoize-one';
import { RateTable } from '@/core/pricing/rates';
import { useDesk, type Desk } from '../desk';
import type { BenchData } from '../load';
import { priceBook } from './prices';

/** The rates that the bench prices with. */
export const ratesOf = memoizeOne((data: BenchData) => new RateTable(data.exchangeRates, data.settings.rateMarginPpm));

const book = memoizeOne((doc: Desk['priceable'], data: BenchData) =>
  priceBook(doc, {
    blank: data.blank,
    list: data.list,
    rates: ratesOf(data),
    settings: data.settings,
    home: data.home,
  }),
);

/** All chosen variants priced for a store, or for all stores (null); worked out once for each state of the product. */
export const pricesOf = ({ priceable, data }: Pick<Desk, 'priceable' | 'data'>) => book(priceable, data);

/** Prices as they are now: what computes them comes with the first part that shows some. */
export function usePrices() {
  const desk = useDesk('priceable', 'data', 'store');
  const pricesAt = pricesOf(desk);
  const { priced, problem } = pricesAt(desk.store);
  return { pricesAt, priced, priceProblem: problem };
}
