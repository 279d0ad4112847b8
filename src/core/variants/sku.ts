import { parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { ownEntry, putEntry } from '../own-entry';

const token = (text: string): string =>
  text
    .normalize('NFD')
    .toUpperCase()
    .replace(/[^A-Z0-9]+/g, '');

/** The longest SKU that a product takes. */
export const MAX_SKU = 64;
/** What SKUs are made of where the seller has said nothing: `K3F9PQ-TOWPATHTEE-ESTUARY-M`. */
export const PLAIN_PATTERN = '{product}-{blank}-{options}';

/** What a pattern may name beside the blank's own options (`{color}`, `{size}` …), with what it stands for. */
export const SKU_TOKENS = [
  ['product', 'six signs that only this product has'],
  ['blank', 'the blank’s code'],
  ['partner', 'the print partner’s code'],
  ['options', 'all options, joined by hyphens'],
  ['n', 'a number, counted through the blank’s variants'],
] as const;

type SkuBlank = Pick<Blank, 'code' | 'options'> & { readonly partner?: { readonly code: string } };

/** What is wrong with a pattern, as sentences; none means it can be used. */
export function checkPattern(pattern: string, blank: Pick<Blank, 'options'>): string[] {
  const known = new Set<string>([...SKU_TOKENS.map(([name]) => name), ...blank.options.map((option) => option.code)]);
  const faults: string[] = [];
  if (pattern.trim() === '') faults.push('A pattern cannot be empty.');
  for (const [, name] of pattern.matchAll(/\{([^{}]*)\}/g))
    if (!known.has(name!))
      faults.push(`“{${name}}” is not known; there are ${[...known].map((one) => `{${one}}`).join(', ')}.`);
  if (/[^A-Za-z0-9._\-/]/.test(pattern.replace(/\{[^{}]*\}/g, '')))
    faults.push('Beside tokens there can be letters, digits, and . _ - /');
  return faults;
}

/**
 * The code of a variant by a pattern. Stable: it depends on the product's id and on codes, not on names or on what else is chosen.
 * `number` is what `{n}` stands for. Longer ones are cut at 64 signs.
 */
export function skuFor(
  productId: string,
  blank: SkuBlank,
  variantKey: string,
  pattern: string = PLAIN_PATTERN,
  number = 0,
): string {
  const values = parseVariantKey(variantKey);
  const of: Record<string, string> = {
    product: token(productId).slice(-6),
    blank: token(blank.code),
    partner: token(blank.partner?.code ?? ''),
    options: blank.options
      .map((option) => token(ownEntry(values, option.code) ?? ''))
      .filter(Boolean)
      .join('-'),
    n: String(number + 1).padStart(3, '0'),
  };
  for (const { code } of blank.options)
    if (!Object.hasOwn(of, code)) putEntry(of, code, token(ownEntry(values, code) ?? ''));
  return pattern
    .replace(/\{([^{}]*)\}/g, (_, name: string) => ownEntry(of, name) ?? '')
    .replace(/([-_./])\1+/g, '$1')
    .replace(/^[-_./]|[-_./]$/g, '')
    .slice(0, MAX_SKU);
}

/** SKUs that were sent to a shop once: they do not change any more. */
export type SentSkus = { readonly [variantKey: string]: string };

/** SKUs of the chosen variants: what the seller typed, what was sent already, else by the pattern. */
export function skusOf(
  productId: string,
  doc: ProductDocument,
  blank: Blank,
  sent: SentSkus = {},
): Map<string, string> {
  const skus = new Map<string, string>();
  for (const [number, { key }] of blank.variants.entries()) {
    const chosen = ownEntry(doc.variants, key);
    if (!chosen) continue;
    skus.set(
      key,
      ownEntry(sent, key) ?? chosen.sku ?? skuFor(productId, blank, key, doc.skuPattern ?? PLAIN_PATTERN, number),
    );
  }
  return skus;
}

/** The SKU of a variant in a bundle: the variant's own with what only that bundle has at its end. */
export function bundledSku(sku: string, bundleId: string): string {
  const end = `-${token(bundleId).slice(-6)}`;
  return sku.slice(0, MAX_SKU - end.length) + end;
}

/** SKUs that more than one variant has, with their variants. */
export function skuCollisions(
  skus: ReadonlyMap<string, string>,
): { readonly sku: string; readonly variantKeys: string[] }[] {
  const keys = new Map<string, string[]>();
  for (const [key, sku] of skus) keys.set(sku, [...(keys.get(sku) ?? []), key]);
  return [...keys].filter(([, own]) => own.length > 1).map(([sku, variantKeys]) => ({ sku, variantKeys }));
}

/** The code that a partner's catalog gives a variant: `MW-TOWPATHTEE-ESTUARY-M`. Options in the blank's order. */
export function partnerSku(
  prefix: string,
  blank: { readonly code: string; readonly options: readonly { readonly code: string }[] },
  values: OptionValues,
): string {
  return [prefix, token(blank.code), ...blank.options.map((option) => token(ownEntry(values, option.code) ?? ''))].join(
    '-',
  );
}
