import type { LosingVariant } from '../pricing/floor';
import { lossSays } from '../rules/losses';
import { parsePointer, pointerOf } from '../document/pointer';
import type { Difference } from './merge';

/** Something that was done in the shop and reaches further than its field: what it means, and what can be done. */
export interface Guard {
  readonly id:
    | 'sku-renamed'
    | 'option-renamed'
    | 'variant-added'
    | 'variant-removed'
    | 'picture-replaced'
    | 'deleted-there'
    | 'not-found'
    | 'off-sale-there'
    | 'on-sale-there'
    | 'under-floor-there';
  /** The fields that it speaks of, each a JSON pointer. */
  readonly fields: readonly string[];
  readonly says: string;
  readonly mend: string;
}

type Kind = 'sku-renamed' | 'option-renamed' | 'variant-added' | 'variant-removed' | 'picture-replaced';

/** What is known of a listing as a whole. */
export interface WholeFacts {
  /** The shop did not find it when it was looked for last, and has not been asked a second time. */
  readonly missing: boolean;
  /** It was found deleted there twice. */
  readonly gone: boolean;
  /** How it stands in the shop, and how it was to stand when both sides last agreed on that; null: nobody said. */
  readonly visibility: 'draft' | 'live';
  readonly wanted: 'draft' | 'live' | null;
  /** Variants that lose money at the prices in the shop, and the store's currency. */
  readonly losing: readonly LosingVariant[];
  readonly currency: string;
}

/** What was done in the shop to a listing as a whole, worst first. */
export function wholeGuards({ missing, gone, visibility, wanted, losing, currency }: WholeFacts): Guard[] {
  const guards: Guard[] = [];
  const tell = (id: Guard['id'], says: string, mend: string, fields: readonly string[] = []) =>
    guards.push({ id, fields, says, mend });
  if (gone)
    tell(
      'deleted-there',
      'The listing was deleted in the shop; it was looked for twice.',
      'Send it: the shop gets a new listing, with a new address and without what buyers wrote. Or leave it out of this store.',
    );
  else if (missing)
    tell(
      'not-found',
      'The shop did not find this listing when it was last looked for.',
      'Nothing needs to be done yet: a shop can fail to find what it has. It is taken to be deleted only when a second look finds nothing either; and where much of a store is missing at once, only when you say so on the store’s page.',
    );
  else if (wanted === 'live' && visibility === 'draft')
    tell(
      'off-sale-there',
      'The listing was taken off sale in the shop, or has ended there: buyers no longer see it.',
      'Send it live to sell it again; or leave it off sale.',
    );
  else if (wanted === 'draft' && visibility === 'live')
    tell(
      'on-sale-there',
      'The listing was a draft and was put on sale in the shop: buyers see it, and the shop may have taken its fee.',
      'Leave it on sale; or send it as a draft, which takes it off.',
    );
  if (losing.length > 0)
    tell(
      'under-floor-there',
      `At the prices in the shop, ${lossSays(losing, currency)}`,
      'Keep ours, and send: the shop has the prices from here again. Taking theirs keeps the loss.',
      losing.map(({ key }) => pointerOf(['variants', key, 'priceMinor'])),
    );
  return guards;
}

function kindOf({ field, here, there }: Difference): Kind | null {
  const [first, name, own, ...rest] = parsePointer(field) ?? [];
  if (first === 'variants') {
    if (own === 'sku') return 'sku-renamed';
    if (own !== undefined) return null;
    return there === undefined ? 'variant-removed' : here === undefined ? 'variant-added' : null;
  }
  if (first === 'options') {
    const isName = own === 'name' || (own === 'values' && rest.at(-1) === 'name');
    return isName ? 'option-renamed' : null;
  }
  return first === 'pictures' && name !== undefined && own === undefined && here === undefined
    ? 'picture-replaced'
    : null;
}

const TOLD: { readonly [kind in Kind]: { readonly says: (n: number) => string; readonly mend: string } } = {
  'sku-renamed': {
    says: (n) =>
      `${n === 1 ? 'A SKU was' : `${n} SKUs were`} changed in the shop. Orders name SKUs: those that come with the new one are not known here.`,
    mend: 'Keep ours, and send: the shop has the SKU again that the print partner’s order is made from.',
  },
  'option-renamed': {
    says: () => 'An option or one of its values has another name in the shop. Variants are told apart by these names.',
    mend: 'Keep ours, and send; or leave it until the shop is looked at: nothing is sent over it before.',
  },
  'variant-added': {
    says: (n) =>
      `${n === 1 ? 'A variant' : `${n} variants`} of the listing ${n === 1 ? 'is' : 'are'} not this product’s. Whoever buys ${n === 1 ? 'it' : 'one'} orders something that nothing here prints.`,
    mend: 'Choose the variant here, where the blank has it; or keep ours, and send: it is removed there.',
  },
  'variant-removed': {
    says: (n) =>
      `${n === 1 ? 'A variant was' : `${n} variants were`} removed in the shop: buyers no longer find ${n === 1 ? 'it' : 'them'}.`,
    mend: 'Take theirs to leave it out of this store; or keep ours, and send: it is sold again.',
  },
  'picture-replaced': {
    says: (n) =>
      `${n === 1 ? 'A picture' : `${n} pictures`} in the shop ${n === 1 ? 'was' : 'were'} put there by somebody else: what ${n === 1 ? 'it shows' : 'they show'} is not known here.`,
    mend: 'Keep ours, and send: the pictures of the product are shown again.',
  },
};

/** What of a listing's differences reaches further than its field, worst first; of what only we changed nothing. */
export function guardsOf(differences: readonly Difference[]): Guard[] {
  const byKind = new Map<Kind, string[]>();
  for (const one of differences) {
    const kind = one.change === 'there' || one.change === 'both' ? kindOf(one) : null;
    if (kind) byKind.set(kind, [...(byKind.get(kind) ?? []), one.field]);
  }
  return (Object.keys(TOLD) as Kind[]).flatMap((id) => {
    const fields = byKind.get(id);
    return fields ? [{ id, fields, says: TOLD[id].says(fields.length), mend: TOLD[id].mend }] : [];
  });
}
