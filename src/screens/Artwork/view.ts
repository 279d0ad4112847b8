import { luminance, parseHex } from '@/core/artwork/color';
import { ownEntry } from '@/core/own-entry';
import type { ArtworkItem } from './load';
import { count } from '@/core/words/count';
import { dayText } from '@/ui/when';

const KINDS: Record<string, string> = {
  'image/png': 'PNG',
  'image/jpeg': 'JPEG',
  'image/webp': 'WebP',
  'image/svg+xml': 'SVG',
};

/** The line under a thumbnail: what it is and how large. */
export function sizeLine({ facts, state }: ArtworkItem): string {
  if (!facts) return state === 'ingesting' ? '◔ being processed' : '';
  const kind = ownEntry(KINDS, facts.mediaType) ?? facts.mediaType;
  return facts.vector ? `${kind}, vector` : `${kind}, ${facts.widthPx} × ${facts.heightPx}`;
}

export const productsLine = ({ products }: ArtworkItem): string =>
  products === 0 ? 'not used' : `in ${count(products, 'product')}`;

/** Whether an artwork has transparency and is mostly light: on a light ground it would not be seen. */
export function isLight({ facts }: ArtworkItem): boolean {
  if (!facts?.hasAlpha) return false;
  const share = (least: number) =>
    facts.mainColors.reduce((sum, one) => sum + (luminance(parseHex(one.hex)) > least ? one.share : 0), 0);
  return share(0.6) > 0.4;
}

/** Facts of an artwork, a line each: name and value. */
export function factLines({ facts, createdAt }: ArtworkItem): [name: string, value: string][] {
  if (!facts) return [];
  const { widthPx, heightPx, vector } = facts;
  const inches = (px: number) => (px / 300).toFixed(1);
  const mm = (px: number) => Math.round((px / 300) * 25.4);
  return [
    ['Kind', ownEntry(KINDS, facts.mediaType) ?? facts.mediaType],
    ['Size', vector ? 'vector: sharp at any size' : `${widthPx} × ${heightPx} px`],
    ...(vector
      ? []
      : ([
          ['Sharp up to', `${mm(widthPx)} × ${mm(heightPx)} mm (${inches(widthPx)} × ${inches(heightPx)} in, 300 DPI)`],
        ] as [string, string][])),
    ['Transparency', facts.hasAlpha ? 'yes' : 'none'],
    ...(facts.enlargedFromPx ? ([['Enlarged', `from ${facts.enlargedFromPx} px wide`]] as [string, string][]) : []),
    ['Uploaded', dayText(createdAt)],
  ];
}

/** Things to know of an artwork wherever it is placed, in sentences. */
export function remarks(item: ArtworkItem): string[] {
  const { facts } = item;
  if (!facts) return [];
  return [
    ...item.twins.map(
      (twin) =>
        `The same picture as ${twin.name} (${twin.vector ? 'a vector' : `${twin.widthPx} × ${twin.heightPx} px`}).`,
    ),
    ...(facts.flatBox && facts.hasAlpha === false
      ? ['It has a flat box around it, which shows on cloth of another color.']
      : []),
    ...((facts.halfTransparent ?? 0) >= 0.02
      ? [`${Math.round(facts.halfTransparent! * 100)} % of it is half transparent, which ink on cloth cannot do.`]
      : []),
    ...(item.replaced ? [`It was put in the place of ${item.replaced.name}.`] : []),
    ...facts.notes,
    ...(facts.missingFonts ?? []).map((font) => `It holds text in ${font}, which is not here.`),
  ];
}

/** `rivers, light on dark` as tags. */
export const readTags = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean),
  ),
];

/** The tags of a file with others added behind them, or taken off; in whatever letters they are written. */
export function changedTags(own: readonly string[], tags: readonly string[], way: 'add' | 'remove'): string[] {
  const small = (text: string) => text.toLocaleLowerCase('en');
  const named = new Set(tags.map(small));
  return way === 'remove'
    ? own.filter((tag) => !named.has(small(tag)))
    : [...own, ...tags.filter((tag) => own.every((one) => small(one) !== small(tag)))];
}
