import type { Technique } from '../geometry/area';
import type { TextureName } from './texture';

/** How a technique sits on a material. */
export interface Finish {
  /** `dye` is taken up by the good and colors what is below it; `ink` lies over it. */
  readonly kind: 'ink' | 'dye';
  /** In whose gaps ink does not reach, and how deep (of 256). */
  readonly weave: TextureName | null;
  readonly weaveDepth: number;
  /** Gloss that it adds, as a share of what the good itself reflects, of 256. */
  readonly gloss: number;
  /** Height in mm of an edge that catches light; 0 for none. */
  readonly reliefMm: number;
  readonly stitched: boolean;
}

const FLAT: Finish = { kind: 'ink', weave: null, weaveDepth: 0, gloss: 0, reliefMm: 0, stitched: false };

/** Materials with a weave of their own; of others ink takes none. */
const WEAVES: readonly (readonly [RegExp, TextureName])[] = [
  [/linen|canvas|polyester|tote/i, 'plain-weave'],
  [/cotton/i, 'knit'],
];

const weaveOf = (material: string): TextureName | null => WEAVES.find(([of]) => of.test(material))?.[1] ?? null;

/** What a technique looks like on a material (common practice, no source; depths by eye). */
export function finishOf(technique: Technique, material: string): Finish {
  const weave = weaveOf(material);
  switch (technique) {
    case 'direct-to-garment':
      return { ...FLAT, weave: weave ?? 'knit', weaveDepth: 56 };
    case 'embroidery':
      return { ...FLAT, stitched: true };
    case 'sublimation':
      return { ...FLAT, kind: 'dye', weave, weaveDepth: weave ? 22 : 0 };
    case 'uv':
      return { ...FLAT, gloss: 160, reliefMm: 0.12 };
    case 'giclee':
      return FLAT;
  }
}
