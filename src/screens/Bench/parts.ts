import { colorOption, type Blank } from '@/core/catalog/blank';

export const PARTS = ['blank', 'artwork', 'variants', 'pictures', 'price', 'words', 'stores'] as const;
export type Part = (typeof PARTS)[number];

/** The part that an address names; where it names none, the artwork. */
export const partOf = (text: string | null | undefined): Part => PARTS.find((part) => part === text) ?? 'artwork';

/** What the docket calls a part. */
export function partTitle(part: Part, blank: Pick<Blank, 'options'>): string {
  if (part === 'variants') return colorOption(blank) ? 'Colors & sizes' : 'Sizes';
  return part[0]!.toUpperCase() + part.slice(1);
}
