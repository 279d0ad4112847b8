import { invalid } from '../errors';

/** sRGB color, each channel 0 to 255. */
export type Rgb = readonly [number, number, number];

/** Linear light 0 to 1 of an 8-bit sRGB value (IEC 61966-2-1). */
export const linearOf8: Float64Array = Float64Array.from({ length: 256 }, (_, value) => {
  const v = value / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
});

/** sRGB 0 to 255 (not rounded) of linear light; below 0 and above 1 are cut (IEC 61966-2-1). */
export function encodeSrgb(linear: number): number {
  if (linear <= 0) return 0;
  if (linear >= 1) return 255;
  return 255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055);
}

/** Reads `#rrggbb`. Throws `color-unreadable`. */
export function parseHex(hex: string): Rgb {
  if (!/^#[0-9a-fA-F]{6}$/.test(hex))
    throw invalid('color-unreadable', `“${hex}” is not a color; it looks like #2d4a53.`);
  const value = Number.parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}

export const formatHex = ([r, g, b]: Rgb): string => `#${((1 << 24) | (r << 16) | (g << 8) | b).toString(16).slice(1)}`;

/** Relative luminance 0 to 1 (WCAG 2.2). */
export const luminance = ([r, g, b]: Rgb): number =>
  0.2126 * linearOf8[r]! + 0.7152 * linearOf8[g]! + 0.0722 * linearOf8[b]!;

/** Contrast ratio 1 to 21 (WCAG 2.2). */
export function contrastRatio(one: Rgb, two: Rgb): number {
  const [a, b] = [luminance(one), luminance(two)];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

/** OKLab lightness 0 to 1 and the axes a, b (CSS Color Module Level 4). */
export function oklab([r8, g8, b8]: Rgb): [number, number, number] {
  const [r, g, b] = [linearOf8[r8]!, linearOf8[g8]!, linearOf8[b8]!];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}
