import { andMore } from '../words/and-more';
import type { Blank, BlankVariant } from '../catalog/blank';
import { variantName } from './tiers';

/** Chosen variants that the partner cannot make now, and what a person can do about it. */
export interface VariantTrouble {
  readonly kind: 'ended' | 'out-of-stock';
  readonly variantKeys: readonly string[];
  /** `2 variants ended: Kelp, XXL and Rusted Chain, XS`. */
  readonly says: string;
  readonly remedy: string;
}

const MAX_NAMED = 3;

function named(blank: Blank, variants: readonly BlankVariant[]): string {
  const names = variants.map((variant) => variantName(blank, variant.key));
  return andMore(names, MAX_NAMED, { join: '; ' });
}

/** What of a product's chosen variants has ended or is out of stock; ended first, nothing when all can be made. */
export function variantTroubles(blank: Blank, chosen: { readonly [variantKey: string]: unknown }): VariantTrouble[] {
  const used = blank.variants.filter((variant) => Object.hasOwn(chosen, variant.key));
  const ended = used.filter((variant) => variant.ended);
  const gone = used.filter((variant) => !variant.ended && !variant.inStock);
  const count = (n: number) => (n === 1 ? '1 variant' : `${n} variants`);
  const troubles: VariantTrouble[] = [];
  if (ended.length > 0)
    troubles.push({
      kind: 'ended',
      variantKeys: ended.map((variant) => variant.key),
      says: `${count(ended.length)} ended: ${named(blank, ended)}.`,
      remedy:
        'Remove them under Colors & sizes, or choose others, and send again; stores drop them with the next send.',
    });
  if (gone.length > 0)
    troubles.push({
      kind: 'out-of-stock',
      variantKeys: gone.map((variant) => variant.key),
      says: `${count(gone.length)} out of stock: ${named(blank, gone)}.`,
      remedy: 'Send again so that stores show them as sold out; they come back when the partner has them.',
    });
  return troubles;
}
