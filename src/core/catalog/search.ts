import MiniSearch from 'minisearch';
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
  return {
    find(text) {
      if (!/[\p{L}\p{N}]/u.test(text)) return null;
      return new Map(index.search(text.slice(0, 200)).map((hit) => [hit.id as string, hit.score]));
    },
  };
}
