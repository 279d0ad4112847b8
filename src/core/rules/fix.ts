import type { Blank } from '../catalog/blank';
import type { SizesIn } from '../catalog/size-guide';
import type { ProductDocument } from '../document/document';
import type { HoldsWhere } from '../document/own-words';
import type { ChosenShades } from '../listing/shades';
import type { ChannelDemands, ChannelSum } from './demands';

/** What a fix looks at: a product in one listing of a store. */
export interface FixWorld {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly storeId: string;
  /** Number of the listing. */
  readonly number: number;
  readonly demands: ChannelDemands;
  /** Units in which sizes are told under the description; absent: they are not. */
  readonly sizesIn?: SizesIn;
  /** The shop's names for colors that the store's settings say. */
  readonly shades?: ChosenShades;
  /** What the shop itself calls the seller's shop. */
  readonly shopName?: string;
  readonly currency: string;
  /** A sum that the channel names, in the store's currency, minor units. */
  readonly sumHere: (sum: ChannelSum) => number;
}

/** A way to keep a broken rule, to be looked at before it is taken. */
export interface Fix {
  /** Its name; several can be for the same rule, of which one is enough. */
  readonly id: string;
  /** Rules that it is for. */
  readonly rules: readonly string[];
  /** What it does, as on a button. */
  readonly says: string;
  readonly before: string;
  readonly after: string;
  /** Whether it can be taken for all that follows the product: a bound of a price is in the store's currency. */
  readonly everywhere: boolean;
  /** The product with it, for the store alone, or for all that follows the product. */
  apply(doc: ProductDocument, where: HoldsWhere): ProductDocument;
}
