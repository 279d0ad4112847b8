import { canonicalJson } from '../canonical/canonical';

/** What happened to one field since both sides last agreed. */
export type FieldChange = 'same' | 'here' | 'there' | 'both' | 'both-alike';

export interface FieldComparison {
  /** Path of the field in the listing's form, dotted: `title`, `variants.color=estuary;size=m.priceMinor`. */
  readonly field: string;
  readonly change: FieldChange;
  readonly agreed: unknown;
  readonly here: unknown;
  readonly there: unknown;
}

/** Fields of a form as a flat table: objects are opened, arrays are one value. */
export function flatten(value: unknown, prefix = ''): Map<string, unknown> {
  const fields = new Map<string, unknown>();
  if (value !== null && typeof value === 'object' && !Array.isArray(value)) {
    for (const [key, entry] of Object.entries(value)) {
      for (const [field, leaf] of flatten(entry, prefix ? `${prefix}.${key}` : key)) fields.set(field, leaf);
    }
  } else fields.set(prefix, value);
  return fields;
}

const same = (a: unknown, b: unknown): boolean =>
  a === undefined || b === undefined ? a === b : canonicalJson(a) === canonicalJson(b);

/** Compares three ways, field by field: the agreed form, ours now, the shop's now. Fields that are the same everywhere are left out. */
export function compareThreeWays(agreed: unknown, here: unknown, there: unknown): FieldComparison[] {
  const [a, h, t] = [flatten(agreed), flatten(here), flatten(there)];
  return [...new Set([...a.keys(), ...h.keys(), ...t.keys()])].sort().flatMap((field) => {
    const values = { agreed: a.get(field), here: h.get(field), there: t.get(field) };
    const movedHere = !same(values.agreed, values.here);
    const movedThere = !same(values.agreed, values.there);
    if (!movedHere && !movedThere) return [];
    const change: FieldChange =
      movedHere && movedThere
        ? same(values.here, values.there)
          ? 'both-alike'
          : 'both'
        : movedHere
          ? 'here'
          : 'there';
    return [{ field, change, ...values }];
  });
}
