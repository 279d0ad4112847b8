import type { ShelfQuery, ShelfRow } from './shelf';

/** Sorts in place; what has no value comes last either way, and equal rows stand by rank. */
export function sortRows(
  rows: ShelfRow[],
  query: Pick<ShelfQuery, 'sort' | 'descending'>,
  scores: ReadonlyMap<string, number> | null,
): void {
  const byText = (textOf: (row: ShelfRow) => string) => {
    // Few different texts: they are compared as texts once, and then by their place.
    const { compare } = new Intl.Collator('en');
    const places = new Map([...new Set(rows.map(textOf))].sort(compare).map((text, i) => [text, i]));
    return (row: ShelfRow) => places.get(textOf(row))!;
  };
  const keys: { readonly [sort in ShelfQuery['sort']]: () => (row: ShelfRow) => number | null } = {
    match: () => (scores ? (row) => -scores.get(row.blank.id)! : (row) => row.landedEachMinor),
    name: () => (row) => row.blank.rank,
    kind: () => byText((row) => row.blank.kind),
    partner: () => byText((row) => row.blank.partner.name),
    technique: () => byText((row) => row.blank.techniques[0] ?? ''),
    colors: () => (row) => row.blank.colors.length,
    sizes: () => (row) => row.blank.sizes.length,
    areas: () => (row) => row.blank.areas.length,
    making: () => (row) => row.blank.makingDays.max,
    cost: () => (row) => row.costMinor,
    landed: () => (row) => row.landedEachMinor,
  };
  const keyOf = keys[query.sort]();
  const sign = query.descending ? -1 : 1;
  const keyed = rows.map((row) => ({ row, key: keyOf(row) }));
  keyed.sort((a, b) => {
    if (a.key === null || b.key === null)
      return (a.key === null ? 1 : 0) - (b.key === null ? 1 : 0) || a.row.blank.rank - b.row.blank.rank;
    return sign * (a.key - b.key) || a.row.blank.rank - b.row.blank.rank;
  });
  keyed.forEach(({ row }, i) => (rows[i] = row));
}
