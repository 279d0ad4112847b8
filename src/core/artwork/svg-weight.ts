/** Shapes that a file may stand for in all, and surfaces: what a mask, a pattern or a filter is drawn on apart. */
const MAX_SHAPES = 100_000;
const MAX_SURFACES = 400;

/** An element with an id: what it repeats, and whether it is drawn on a surface of its own wherever it is referred to. */
interface Holder {
  readonly uses: string[];
  readonly paints: string[];
  readonly isSurface: boolean;
}

const SURFACE = /^<(mask|pattern|filter)\b/;

/** Ids that a tag repeats (`use`), and those that it is painted or masked with. */
function targetsOf(tag: string): { uses: string[]; paints: string[] } {
  const used = tag.startsWith('<use') ? /href="#([^"]*)"/.exec(tag)?.[1] : undefined;
  const paints = [...tag.matchAll(/url\((?:["']|&quot;)?#([^"'&)]*)/g)].map(([, id]) => id!);
  return { uses: used === undefined ? [] : [used], paints };
}

function holdersOf(svg: string): { holders: Map<string, Holder>; roots: Holder } {
  const holders = new Map<string, Holder>();
  const roots: Holder = { uses: [], paints: [], isSurface: false };
  const open: (string | null)[] = [];
  for (const [tag] of svg.matchAll(/<[^<>]+>/g)) {
    if (tag.startsWith('</')) {
      open.pop();
      continue;
    }
    const id = /\sid="([^"]*)"/.exec(tag)?.[1] ?? null;
    if (id !== null && !holders.has(id)) holders.set(id, { uses: [], paints: [], isSurface: SURFACE.test(tag) });
    const { uses, paints } = targetsOf(tag);
    // What an element is painted with belongs to what is around it; of a `use` so does what it repeats.
    const around = [...open, id].flatMap((entry) => (entry === null ? [] : [holders.get(entry)!]));
    for (const holder of around.length > 0 ? around : [roots]) {
      for (const target of uses) holder.uses.push(target);
      for (const target of paints) holder.paints.push(target);
    }
    if (!tag.endsWith('/>')) open.push(id);
  }
  return { holders, roots };
}

interface Weight {
  readonly shapes: number;
  readonly surfaces: number;
}

/** Why a file is too heavy, as the end of a sentence. */
class TooHeavy extends Error {}

const tooMany = (what: string, most: number) =>
  new TooHeavy(`its repeated ${what} multiply to more than ${most.toLocaleString('en')}`);

/** What each element with an id stands for, counted along references. */
class Weights {
  private readonly known = new Map<string, Weight>();

  constructor(private readonly holders: ReadonlyMap<string, Holder>) {}

  of(holder: Holder, path: Set<string>): Weight {
    let [shapes, surfaces] = [1, 0];
    const add = (id: string, surface: boolean) => {
      const one = this.ofId(id, path);
      shapes += surface ? 0 : one.shapes;
      surfaces += one.surfaces + (surface ? 1 : 0);
      if (shapes > MAX_SHAPES) throw tooMany('shapes', MAX_SHAPES);
      if (surfaces > MAX_SURFACES) throw tooMany('masks and patterns', MAX_SURFACES);
    };
    for (const target of holder.uses) add(target, false);
    for (const target of holder.paints) if (this.holders.get(target)?.isSurface) add(target, true);
    return { shapes, surfaces };
  }

  ofId(id: string, path: Set<string>): Weight {
    const known = this.known.get(id);
    if (known) return known;
    const holder = this.holders.get(id);
    if (!holder) return { shapes: 1, surfaces: 0 };
    if (path.has(id)) throw new TooHeavy('it repeats a shape within itself');
    path.add(id);
    const weight = this.of(holder, path);
    path.delete(id);
    this.known.set(id, weight);
    return weight;
  }
}

/**
 * What repeats or masks within what is repeated or masked multiplies: a short file can stand for billions of shapes, or for hours of drawing. Both
 * are counted along references; a ring, or more than there may be in all, is too heavy. Gives why, or null.
 */
export function tooHeavy(svg: string): string | null {
  const { holders, roots } = holdersOf(svg);
  const weights = new Weights(holders);
  try {
    let all = weights.of(roots, new Set()).shapes;
    for (const id of holders.keys()) {
      all += weights.ofId(id, new Set()).shapes;
      if (all > 2 * MAX_SHAPES) throw tooMany('shapes', MAX_SHAPES);
    }
    return null;
  } catch (error) {
    if (error instanceof TooHeavy) return error.message;
    throw error;
  }
}
