import { isDeepStrictEqual } from 'node:util';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contentHash } from '../canonical/canonical';
import { compare } from './merge';
import { syncState } from './state';
import type { Branch } from './tree';

/**
 * Seeded histories of a listing that is edited here and in a shop, told apart by a bookkeeping that knows nothing of forms: it writes down
 * what each side holds, field by field. Equality is that of Node's `util.isDeepStrictEqual`, not ours.
 */
const FIELDS = ['title', 'tags', 'variants.a.priceMinor', 'variants.b.priceMinor', 'variants.b.sku'] as const;
type Field = (typeof FIELDS)[number];
type Side = Map<Field, unknown>;

/** A form of these fields; those that are absent are not in it. */
const formOf = (side: Side): Branch => ({ values: new Map(side), lists: new Map() });
const compareThreeWays = (agreed: Side, here: Side, there: Side) =>
  compare({ agreed: formOf(agreed), here: formOf(here), there: formOf(there) }).toSorted((a, b) =>
    a.field < b.field ? -1 : 1,
  );

const value = fc.oneof(
  fc.integer({ min: 0, max: 2 }),
  fc.constantFrom('ebb', 'flood', '', null),
  fc.array(fc.constantFrom('river', 'tide'), { maxLength: 2 }),
);
const step = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({ kind: fc.constantFrom('here', 'there'), field: fc.constantFrom(...FIELDS), value }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constantFrom('here', 'there'),
      field: fc.constantFrom(...FIELDS),
      value: fc.constant(undefined),
    }),
  },
  { weight: 1, arbitrary: fc.constant({ kind: 'agree' as const }) },
);
interface Step {
  readonly kind: 'here' | 'there' | 'agree';
  readonly field?: Field;
  readonly value?: unknown;
}

function live(steps: readonly Step[]) {
  let agreed: Side = new Map(FIELDS.map((field) => [field, 0]));
  let [here, there]: [Side, Side] = [new Map(agreed), new Map(agreed)];
  for (const { kind, field, value: next } of steps) {
    if (kind === 'agree') {
      agreed = new Map(here);
      [here, there] = [new Map(agreed), new Map(agreed)];
    } else {
      const side = kind === 'here' ? here : there;
      if (next === undefined) side.delete(field!);
      else side.set(field!, next);
    }
  }
  return { agreed, here, there };
}

const histories = fc.array(step as fc.Arbitrary<Step>, { maxLength: 14 }).map(live);
const equal = (a: Side, b: Side, field: Field) =>
  a.has(field) === b.has(field) && isDeepStrictEqual(a.get(field), b.get(field));

describe('histories of a listing', () => {
  it('are told field by field: who moved what since both agreed', () => {
    let both = 0;
    fc.assert(
      fc.property(histories, ({ agreed, here, there }) => {
        const expected = FIELDS.toSorted().flatMap((field) => {
          const [ours, theirs] = [!equal(agreed, here, field), !equal(agreed, there, field)];
          if (!ours && !theirs) return [];
          if (ours && theirs) both += 1;
          const change = !ours ? 'there' : !theirs ? 'here' : equal(here, there, field) ? 'both-alike' : 'both';
          return [[`/${field}`, change]];
        });
        const told = compareThreeWays(agreed, here, there);
        expect(told.map(({ field, change }) => [field, change])).toEqual(expected);
      }),
      { numRuns: 2000, seed: 19 },
    );
    // The histories do meet what is hard: both sides moved the same field.
    expect(both).toBeGreaterThan(500);
  });

  it('can be lived again from what is told: agreed and the changes of a side give that side', () => {
    fc.assert(
      fc.property(histories, ({ agreed, here, there }) => {
        const told = compareThreeWays(agreed, here, there);
        const again = (side: 'here' | 'there') => {
          const fields = new Map<string, unknown>(agreed);
          for (const one of told)
            if (one[side] === undefined) fields.delete(one.field.slice(1));
            else fields.set(one.field.slice(1), one[side]);
          return fields;
        };
        expect(again('here')).toEqual(new Map<string, unknown>(here));
        expect(again('there')).toEqual(new Map<string, unknown>(there));
      }),
      { numRuns: 1000, seed: 20 },
    );
  });

  it('come to one word: in step, ahead, behind or split, as the fields say', () => {
    const words = new Map<string, number>();
    fc.assert(
      fc.property(histories, ({ agreed, here, there }) => {
        const moved = (side: Side) => FIELDS.some((field) => !equal(agreed, side, field));
        const alike = FIELDS.every((field) => equal(here, there, field));
        const expected = alike ? 'in-step' : moved(here) ? (moved(there) ? 'split' : 'ahead') : 'behind';
        words.set(expected, (words.get(expected) ?? 0) + 1);
        const [agreedHash, hereHash, thereHash] = [agreed, here, there].map((side) =>
          contentHash(Object.fromEntries(side)),
        );
        const facts = { agreedHash: agreedHash!, hereHash: hereHash!, thereHash: thereHash! };
        expect(syncState({ ...facts, refusedHash: null })).toBe(expected);
        expect(syncState({ ...facts, refusedHash: hereHash! })).toBe('refused');
      }),
      { numRuns: 2000, seed: 21 },
    );
    for (const word of ['in-step', 'ahead', 'behind', 'split']) expect(words.get(word)).toBeGreaterThan(50);
  });
});
