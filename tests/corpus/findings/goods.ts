import type { Blank, OptionValues } from '../../../src/core/catalog/blank';
import { demoBlank } from '../../../src/core/catalog/sample';
import type { Geometry, Technique } from '../../../src/core/geometry/area';

/** A good of the corpus: one area, one or two sizes, and the colors that it comes in. */
export interface Good {
  readonly technique: Technique;
  readonly widthMm?: number;
  readonly heightMm?: number;
  /** A second size of the area. */
  readonly otherMm?: readonly [width: number, height: number];
  readonly bleedMm?: number;
  readonly safeMm?: number;
  readonly outline?: string | null;
  /** Of the cloth or the good; none: a white good without a choice of colors. */
  readonly colors?: readonly string[];
}

export const SIZES = ['s', 'xxl'] as const;

/** The good as a blank: color `c0`, `c1` …, sizes `s` and `xxl`, the second with the other geometry. */
export function blankOf(good: Good): Blank {
  const { technique, widthMm = 300, heightMm = 400, bleedMm = 0, safeMm = 5, outline = null, colors = [] } = good;
  const geometry = (width: number, height: number): Geometry => ({
    widthMm: width,
    heightMm: height,
    outline,
    anchor: { xMm: width / 2, yMm: 0 },
    bleedMm,
    safeMm,
    dpi: 300,
    technique,
  });
  const other = good.otherMm ?? [widthMm, heightMm];
  const size = {
    code: 'size',
    name: 'Size',
    pieceCode: null,
    values: SIZES.map((code) => ({ code, name: code.toUpperCase(), hex: null })),
  };
  const color = {
    code: 'color',
    name: 'Color',
    pieceCode: null,
    values: colors.map((hex, i) => ({ code: `c${i}`, name: `Color ${i}`, hex })),
  };
  const chosen = colors.length === 0 ? [null] : colors.map((_, i) => `c${i}`);
  return {
    ...demoBlank,
    areas: [
      {
        key: 'main.front',
        pieceCode: 'main',
        name: 'Front',
        technique,
        geometries: [
          { geometryId: 'g', applies: { size: ['s'] } },
          { geometryId: 'g2', applies: {} },
        ],
      },
    ],
    geometries: { g: geometry(widthMm, heightMm), g2: geometry(other[0], other[1]) },
    options: colors.length === 0 ? [size] : [color, size],
    variants: chosen.flatMap((code) =>
      SIZES.map((one) => ({
        ...demoBlank.variants[0]!,
        key: code === null ? `size=${one}` : `color=${code};size=${one}`,
        values: (code === null ? { size: one } : { color: code, size: one }) as OptionValues,
      })),
    ),
  };
}

/** All variants of a blank, or those of its first size. */
export const chosenOf = (blank: Blank, both: boolean): Record<string, object> =>
  Object.fromEntries(blank.variants.filter(({ values }) => both || values.size === 's').map(({ key }) => [key, {}]));
