import type { ShelfBlank, ShelfQuery } from './shelf';

/** What the whole blank is filtered by. */
const BLANK_GROUPS = [
  'text',
  'kind',
  'technique',
  'shipsFrom',
  'material',
  'partner',
  'areas',
  'making',
  'favorite',
  'used',
] as const;
export type BlankGroup = (typeof BLANK_GROUPS)[number];

/** Blanks by what a workspace has to do with them. */
export interface OwnBlanks {
  readonly favorites: ReadonlySet<string>;
  /** Those that one of its products is on. */
  readonly used: ReadonlySet<string>;
}

/**
 * Says of a blank which groups of the query it misses: none, the one alone, or `many`. A blank that misses one group alone still counts for
 * that group's choices. `scores` holds the blanks that match the text, or is null when nothing is searched for.
 */
export function blankFilter(
  query: ShelfQuery,
  scores: ReadonlyMap<string, number> | null,
  own: OwnBlanks,
): (blank: ShelfBlank) => BlankGroup | 'many' | null {
  const sets = {
    technique: new Set(query.techniques),
    shipsFrom: new Set(query.shipsFrom),
    material: new Set(query.materials),
    partner: new Set(query.partners),
  };
  const fits: { readonly [group in BlankGroup]: (blank: ShelfBlank) => boolean } = {
    text: (b) => scores === null || scores.has(b.id),
    kind: (b) => query.kind === null || b.kind === query.kind,
    technique: (b) => sets.technique.size === 0 || b.techniques.some((t) => sets.technique.has(t)),
    shipsFrom: (b) => sets.shipsFrom.size === 0 || sets.shipsFrom.has(b.shipsFrom),
    material: (b) => sets.material.size === 0 || sets.material.has(b.material),
    partner: (b) => sets.partner.size === 0 || sets.partner.has(b.partner.id),
    areas: (b) => query.areasMin === null || b.areas.length >= query.areasMin,
    making: (b) => query.makingMax === null || b.makingDays.max <= query.makingMax,
    favorite: (b) => !query.favorite || own.favorites.has(b.id),
    used: (b) => !query.used || own.used.has(b.id),
  };
  return (blank) => {
    let missed: BlankGroup | null = null;
    for (const group of BLANK_GROUPS)
      if (!fits[group](blank)) {
        if (missed !== null) return 'many';
        missed = group;
      }
    return missed;
  };
}
