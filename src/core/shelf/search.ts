import MiniSearch, { type Query } from 'minisearch';
import { TECHNIQUE_NAMES } from '../geometry/area';
import type { ShelfBlank } from './shelf';

/** Searches blanks by words; what is typed wrongly is found too. */
export interface ShelfSearch {
  /** Blank ids with how well they match, or null when the text holds no word. All words must match. */
  find(text: string): Map<string, number> | null;
}

/** `Giclée` and `giclee` are one word. */
const fold = (term: string): string => term.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** A word of 4 letters may have one letter wrong, one of 8 two; shorter ones none, since too many would match. */
const slack = (term: string): number => (term.length < 4 ? 0 : term.length < 8 ? 1 : 2);

/** Most letters of a word in which two may be exchanged. */
const MAX_SWAPPED = 20;

/** A word and what it would be with two neighbors exchanged: `hodoie` is `hoodie` so. That is two letters wrong, and too much for a short word. */
function swapped(word: string): string[] {
  const letters = [...word];
  if (letters.length < 4 || letters.length > MAX_SWAPPED) return [word];
  return [
    word,
    ...letters
      .slice(1)
      .map((_, i) => [...letters.slice(0, i), letters[i + 1]!, letters[i]!, ...letters.slice(i + 2)].join('')),
  ];
}

/** Indexes name, kind, partner, material, techniques, colors, sizes, areas, description and facts. */
export function buildSearch(blanks: readonly ShelfBlank[]): ShelfSearch {
  const index = new MiniSearch<{ id: string } & Record<string, string>>({
    fields: ['name', 'kind', 'partner', 'material', 'technique', 'colors', 'sizes', 'areas', 'text'],
    processTerm: (term) => fold(term) || null,
    searchOptions: {
      boost: { name: 6, kind: 3, material: 2, technique: 2, colors: 1.5, partner: 1.5 },
      prefix: true,
      fuzzy: slack,
      combineWith: 'AND',
    },
  });
  index.addAll(
    blanks.map((blank) => ({
      id: blank.id,
      name: blank.name,
      kind: blank.kind,
      partner: blank.partner.name,
      material: blank.material,
      technique: blank.techniques.map((technique) => TECHNIQUE_NAMES[technique]).join(' '),
      colors: blank.colors.map((color) => `${color.name} ${color.family}`).join(' '),
      sizes: blank.sizes.join(' '),
      areas: blank.areas.map((area) => area.name).join(' '),
      text: `${blank.description} ${blank.factsText}`,
    })),
  );
  const exchanged = (text: string): Query => ({
    combineWith: 'AND',
    queries: text
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean)
      .slice(0, 12)
      .map((word) => ({ combineWith: 'OR', fuzzy: false, queries: swapped(fold(word)) })),
  });
  return {
    find(text) {
      if (!/[\p{L}\p{N}]/u.test(text)) return null;
      const asked = text.slice(0, 200);
      const found = index.search(asked);
      const hits = found.length > 0 ? found : index.search(exchanged(asked));
      return new Map(hits.map((hit) => [hit.id as string, hit.score]));
    },
  };
}
