import { linearOf8, luminance, parseHex } from '../artwork/color';

/** A color that fabric takes. */
export interface FabricColor {
  /** sRGB `#rrggbb`. */
  readonly hex: string;
  /** Spun from fibers of two shades. */
  readonly heather: boolean;
}

/** Linear luminance from which fabric is only multiplied, and that at which the near-black curve is whole. */
const DARK_FROM = 0.035;
const DARK_WHOLE = 0.012;
/** Contrast of near-black fabric around its median light (measured on the studio's shirts). */
const DARK_EXPONENT = 0.44;
/** Light that fibers standing off a dark fabric throw back, of white. */
const FUZZ = 0.008;
/** 1 of light, in the kernel's fixed point. */
export const ONE = 16384;

/** How near to black a color is: 0 for all that are simply multiplied, 1 for black. */
export function nearBlack(hex: string): number {
  const t = Math.min(1, Math.max(0, (DARK_FROM - luminance(parseHex(hex))) / (DARK_FROM - DARK_WHOLE)));
  return t * t * (3 - 2 * t);
}

/**
 * The fabric's color in linear light, 0 … 65535. Of near-black ones a little more than the swatch: their fuzz catches light.
 */
export function fabricLinear(hex: string): [number, number, number] {
  const fuzz = FUZZ * nearBlack(hex);
  return parseHex(hex).map((c) => Math.round(Math.min(1, linearOf8[c]! + fuzz) * 65535)) as [number, number, number];
}

/**
 * The near-black curve: multiplied, black fabric looks flat, since what one fold throws onto another is lost in it. Light around the
 * median keeps its place, and contrast around it is raised to the power of 1 to 1.44. `bounce` (of 256) is how much of the light from
 * other folds is kept. Null for colors that are multiplied. Entries are for light in steps of 4, `ONE` being 16384.
 */
export function darkCurve(hex: string, median: number): { table: Uint16Array; bounce: number } | null {
  const dark = nearBlack(hex);
  if (dark === 0) return null;
  const exponent = 1 + DARK_EXPONENT * dark;
  const table = Uint16Array.from({ length: 16384 }, (_, i) =>
    Math.min(65535, Math.round(median * ((i * 4) / median) ** exponent)),
  );
  return { table, bounce: Math.round(256 * (1 - 0.85 * dark)) };
}

/** Contrast of heather, of 128: fibers are up to about a fifth lighter or darker than the whole. */
export const HEATHER_DEPTH = 56;
