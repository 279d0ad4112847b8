import { canonicalJson } from '../canonical/canonical';
import { pointerOf } from '../document/pointer';
import { mergedSequence } from './sequence';
import { plainOf, type Branch, type List } from './tree';

/** What happened to one field since both sides last agreed. */
export type FieldChange = 'here' | 'there' | 'both' | 'both-alike';

/** A field that is not the same on all sides. */
export interface Difference {
  /** JSON pointer (RFC 6901): `/title`, `/tags/river` (that it is there), `/tags` (the order of those that all have), `/variants/size=m/priceMinor`. */
  readonly field: string;
  readonly change: FieldChange;
  /** Undefined where it is not there; of a thing of a list all that it holds; of an order the names in it. */
  readonly agreed: unknown;
  readonly here: unknown;
  readonly there: unknown;
  /** Of an order that both changed in different places: with both changes. */
  readonly together?: readonly string[];
}

/** How a difference is settled: ours holds, theirs does (of an order that can be had together, both do), or it stays until somebody says. */
export type Choice = 'ours' | 'theirs' | 'ask' | { readonly value: unknown };

/**
 * The three sides after a difference was settled. What is settled in favor of theirs is the same on all; what holds of ours is known to differ from what is there,
 * and goes there with the next send.
 */
export interface Sides<T> {
  readonly agreed: T;
  readonly here: T;
  readonly there: T;
}

export type Choose = (difference: Difference) => Choice;

const isPlain = (value: unknown): boolean => typeof value !== 'object' || value === null;
const same = (a: unknown, b: unknown): boolean =>
  a === b || (!isPlain(a) && !isPlain(b) && canonicalJson(a) === canonicalJson(b));

const SIDES = ['agreed', 'here', 'there'] as const;
type Side = (typeof SIDES)[number];

const part = (field: string, name: string): string => field + pointerOf([name]);

function changeIn({ agreed, here, there }: Sides<unknown>): FieldChange | null {
  const [ours, theirs] = [!same(agreed, here), !same(agreed, there)];
  if (!ours) return theirs ? 'there' : null;
  if (!theirs) return 'here';
  return same(here, there) ? 'both-alike' : 'both';
}

/** The sides of one field as they are after it was settled. */
function settled<T>(change: FieldChange, { agreed, here, there }: Sides<T>, choice: Choice): Sides<T> {
  // Nobody has to be asked of what both did alike, nor of what only we did: that goes there.
  if (change === 'both-alike') return { agreed: there, here: there, there };
  if (choice === 'theirs') return { agreed: there, here: there, there };
  if (change === 'here' && choice === 'ask') return { agreed, here, there: here };
  if (choice === 'ask') return { agreed, here, there };
  const ours = choice === 'ours' ? here : (choice.value as T);
  return { agreed: there, here: ours, there: ours };
}

class Merging {
  readonly differences: Difference[] = [];

  constructor(private readonly choose: Choose) {}

  branch(field: string, sides: Sides<Branch>): Sides<Branch> {
    const values = this.values(field, sides);
    const names = [...new Set(SIDES.flatMap((side) => [...sides[side].lists.keys()]))];
    const lists = names.map(
      (name) =>
        [
          name,
          this.list(
            part(field, name),
            each((side) => listIn(sides[side], name)),
          ),
        ] as const,
    );
    return each((side) => ({
      values: values[side],
      lists: new Map(lists.map(([name, merged]) => [name, merged[side]])),
    }));
  }

  private values(field: string, sides: Sides<Branch>): Sides<Map<string, unknown>> {
    const names = new Set(SIDES.flatMap((side) => [...sides[side].values.keys()]));
    const after = each(() => new Map<string, unknown>());
    for (const name of names) {
      const own = each((side) => sides[side].values.get(name));
      const merged = this.settle(part(field, name), own, own);
      for (const side of SIDES) if (merged[side] !== undefined) after[side].set(name, merged[side]);
    }
    return after;
  }

  /** One field: `shown` is what a person sees of each side, `own` what it is. */
  private settle<T>(field: string, own: Sides<T>, shown: Sides<unknown>): Sides<T> {
    const change = changeIn(shown);
    if (change === null) return own;
    const difference = { field, change, ...shown };
    this.differences.push(difference);
    const choice = this.choose(difference);
    // A thing of a list is there or not: nothing can be written in its place.
    const isThing = own !== shown;
    return settled(change, own, isThing && typeof choice === 'object' ? 'ask' : choice);
  }

  private list(field: string, sides: Sides<List>): Sides<List> {
    const { ordered } = sides.here;
    const names = [...new Set(SIDES.flatMap((side) => [...sides[side].things.keys()]))];
    const things = new Map(
      names.map((name) => [
        name,
        this.thing(
          part(field, name),
          each((side) => sides[side].things.get(name)),
        ),
      ]),
    );
    const order = ordered ? this.order(field, sides) : each(() => names.toSorted());
    return each((side) => ({
      ordered,
      things: new Map(
        order[side].flatMap((name) => {
          const thing = things.get(name)![side];
          return thing === undefined ? [] : [[name, thing] as const];
        }),
      ),
    }));
  }

  /** A thing that all have is looked into; one that is not everywhere is there or not, with all that it holds. */
  private thing(field: string, sides: Sides<Branch | undefined>): Sides<Branch | undefined> {
    const { agreed, here, there } = sides;
    if (agreed && here && there) return this.branch(field, { agreed, here, there });
    return this.settle(
      field,
      sides,
      each((side) => sides[side] && plainOf(sides[side])),
    );
  }

  /** All names of a list in each side's order: that of the things that both sides have, the others behind those that they stand behind. */
  private order(field: string, sides: Sides<List>): Sides<readonly string[]> {
    const rows = each((side) => [...sides[side].things.keys()]);
    const has = (name: string, ...where: Side[]) => where.every((side) => sides[side].things.has(name));
    const common = each((side) => rows[side].filter((name) => has(name, 'here', 'there')));
    const old = each((side) => rows[side].filter((name) => has(name, ...SIDES)));
    const change = changeOfOrder(common, old);
    const after = change === null ? common : this.settleOrder({ field, change, ...common });
    return each((side) => placed(after[side], [rows.here, rows.there, rows.agreed]));
  }

  private settleOrder(found: Difference & Sides<unknown>): Sides<readonly string[]> {
    const common = found as unknown as Sides<readonly string[]>;
    const together = found.change === 'both' ? orderedTogether(common) : null;
    const difference: Difference = { ...found, ...(together ? { together } : {}) };
    this.differences.push(difference);
    const choice = this.choose(difference);
    if (together && choice === 'theirs') return { agreed: common.there, here: together, there: together };
    return settled(found.change, common, choice);
  }
}

/** Who moved the things that both sides have: those that are new are where each side put them. */
function changeOfOrder({ here, there }: Sides<readonly string[]>, old: Sides<readonly string[]>): FieldChange | null {
  const change = changeIn(old);
  if (same(here, there)) return change;
  return change === 'here' || change === 'there' ? change : 'both';
}

const EMPTY: List = { ordered: true, things: new Map() };
const listIn = (branch: Branch, name: string): List => branch.lists.get(name) ?? EMPTY;

const each = <T>(make: (side: Side) => T): Sides<T> => ({
  agreed: make('agreed'),
  here: make('here'),
  there: make('there'),
});

/** The same things in an order that has both sides' changes; null where they changed the same place, or moved the same thing. */
function orderedTogether({ agreed, here, there }: Sides<readonly string[]>): readonly string[] | null {
  const merged = mergedSequence(agreed, here, there);
  return merged && merged.length === agreed.length && new Set(merged).size === agreed.length ? merged : null;
}

/** Things in an order, with those of rows that are not in it yet: each behind the one that it stands behind in its row, and behind those that came so before it. */
function placed(order: readonly string[], rows: readonly (readonly string[])[]): string[] {
  const all = [...order];
  const [first, known] = [new Set(order), new Set(order)];
  for (const row of rows) {
    const came = new Set<string>();
    for (const [i, name] of row.entries()) {
      if (known.has(name)) continue;
      let at = i === 0 ? 0 : all.indexOf(row[i - 1]!) + 1;
      // What an earlier row put there stays before it.
      while (at < all.length && !came.has(all[at]!) && !first.has(all[at]!)) at += 1;
      all.splice(at, 0, name);
      known.add(name);
      came.add(name);
    }
  }
  return all;
}

/**
 * Merges what a listing is here and there, three ways, field by field, as `choose` says of each that differs. What neither side touched stays as it is; of a list
 * each thing is a field, so that one that was added here and another that was added there are both kept.
 */
export function merge(
  sides: Sides<Branch>,
  choose: Choose,
): Sides<Branch> & { readonly differences: readonly Difference[] } {
  const merging = new Merging(choose);
  const after = merging.branch('', sides);
  return { ...after, differences: merging.differences };
}

/** All fields that are not the same on all sides. */
export const compare = (sides: Sides<Branch>): readonly Difference[] => merge(sides, () => 'ask').differences;
