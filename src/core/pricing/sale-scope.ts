import { unprintable } from '../json/bounds';
import { ownEntry } from '../own-entry';

/** Which products a sale is for, and in which stores; an empty list: all of them. A product is in it where any of what is named fits. */
export interface SaleScope {
  readonly storeIds: readonly string[];
  readonly productIds: readonly string[];
  /** Kinds of goods. */
  readonly kinds: readonly string[];
  /** Tags of artwork that is on the product. */
  readonly tags: readonly string[];
}

/** What of a product decides. */
export interface ScopedProduct {
  readonly id: string;
  readonly kind: string;
  readonly tags: readonly string[];
}

export const inScope = (scope: SaleScope, { id, kind, tags }: ScopedProduct): boolean =>
  (scope.productIds.length === 0 && scope.kinds.length === 0 && scope.tags.length === 0) ||
  scope.productIds.includes(id) ||
  scope.kinds.includes(kind) ||
  tags.some((tag) => scope.tags.includes(tag));

const MAX = { storeIds: 50, productIds: 500, kinds: 50, tags: 50 } as const;

/** Faults of a scope, as sentences. */
export function checkScope(value: unknown): string[] {
  if (typeof value !== 'object' || value === null) return ['A sale is for products in stores.'];
  const faults: string[] = [];
  const stranger = Object.keys(value).find((key) => !Object.hasOwn(MAX, key));
  if (stranger !== undefined) faults.push(`A sale is not for “${stranger.slice(0, 40).toWellFormed()}”.`);
  for (const [name, most] of Object.entries(MAX)) {
    const list = ownEntry(value as Record<string, unknown>, name);
    if (!Array.isArray(list) || list.length > most) faults.push(`${name} is a list of up to ${most}.`);
    else if (!list.every((one) => typeof one === 'string' && one !== '' && one.length <= 80 && !unprintable(one)))
      faults.push(`${name} are texts of up to 80 characters.`);
  }
  return faults;
}
