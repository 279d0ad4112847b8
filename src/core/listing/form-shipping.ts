import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import type { Outlet } from '../pricing/outlet';
import { planFor } from '../pricing/plan';
import type { RateTable } from '../pricing/rates';
import { shippingCharge } from '../pricing/shipping-charge';
import { sellsTo } from '../pricing/terms';
import { PLAIN_FIELDS, type CarriedFields } from './carried';

/** What buyers in some countries pay for shipping, minor units of the store's currency. */
export interface ShippingLines {
  readonly countries: readonly string[];
  readonly firstMinor: number;
  readonly furtherMinor: number;
}

interface ShippingInput {
  readonly doc: ProductDocument;
  readonly blank: Pick<Blank, 'parcelClass'>;
  readonly list: PriceList;
  readonly rates: RateTable;
  readonly outlet: Outlet;
  readonly carries?: CarriedFields;
}

/** What the buyer pays for shipping by destination: the partner's first and further, converted; nothing when it is in the price. */
export function shippingLines({
  doc,
  blank,
  list,
  rates,
  outlet,
  carries = PLAIN_FIELDS,
}: ShippingInput): ShippingLines[] {
  const folded = planFor(doc, outlet).shipping === 'folded';
  const lines = new Map<string, { countries: string[]; firstMinor: number; furtherMinor: number }>();
  for (const country of sellsTo(doc, outlet)) {
    const line = shippingTo(list, country);
    if (!line) continue;
    const shop = { ...outlet, eachItemAlike: carries.eachItemAlike };
    const told = shippingCharge({ blank, list, outlet: shop, rates }, country)!;
    const have = lines.get(line.region);
    if (have) have.countries.push(country);
    else
      lines.set(line.region, {
        countries: [country],
        firstMinor: folded ? 0 : told.firstMinor,
        furtherMinor: folded ? 0 : told.furtherMinor,
      });
  }
  return [...lines.values()];
}
