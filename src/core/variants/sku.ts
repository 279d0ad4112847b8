import { parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';

const token = (text: string): string =>
  text
    .normalize('NFD')
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '');

/**
 * The code of a variant where the seller has set none: product's tag, blank's code, then each option's value: `K3F9-TOWPATH-ESTUARY-M`.
 * Stable: it depends on the product's id and on codes, not on names or on what else is chosen.
 */
export function skuFor(productId: string, blank: Pick<Blank, 'code' | 'options'>, variantKey: string): string {
  const values = parseVariantKey(variantKey);
  return [
    token(productId).slice(-6),
    token(blank.code),
    ...blank.options.map((option) => token(values[option.code] ?? '')),
  ]
    .filter(Boolean)
    .join('-');
}

/** The code that a partner's catalog gives a variant: `MW-TOWPATHTEE-ESTUARY-M`. Options in the blank's order. */
export function partnerSku(
  prefix: string,
  blank: { readonly code: string; readonly options: readonly { readonly code: string }[] },
  values: OptionValues,
): string {
  return [prefix, token(blank.code), ...blank.options.map((option) => token(values[option.code] ?? ''))].join('-');
}
