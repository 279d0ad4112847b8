import sharp from 'sharp';
import type { CleanSvg } from '@/core/artwork/svg';
import { findSvgTexts, withOutlines, type SetSpan, type SvgSpan } from '@/core/artwork/svg-text';
import { invalid } from '@/core/errors';
import { MAX_PIXELS } from './limits';
import { setSpan } from '../lettering/fonts';

/** Most spans of text that are outlined; what has more was made by a program that should do it itself. */
const MAX_SPANS = 2000;

/** Text in fonts that ship with the app becomes outlines; what is in other fonts stays and is named. */
export async function outlineSvgText({
  svg,
  hasText,
}: CleanSvg): Promise<{ svg: string; missingFonts: string[]; outlined: number }> {
  if (!hasText) return { svg, missingFonts: [], outlined: 0 };
  const { texts, missingFonts, alongPath } = findSvgTexts(svg);
  const spans = texts.flatMap((text) => text.lines.flatMap((line) => line.spans));
  if (spans.length > MAX_SPANS)
    throw invalid(
      'svg-refused',
      `This SVG cannot be used: it holds ${spans.length} pieces of text; convert its text to outlines.`,
    );
  const sets = new Map<SvgSpan, SetSpan>();
  for (const span of spans) sets.set(span, await setSpan(span));
  return {
    svg: withOutlines(svg, texts, (span) => sets.get(span)!),
    missingFonts: [...missingFonts, ...(alongPath ? ['a font along a path'] : [])],
    outlined: texts.length,
  };
}

/** A clean SVG as pixels whose longer side is `longPx`. The buffer, never a path, is given: from a path librsvg would read files beside it. */
export function renderSvg(svg: string, widthPx: number, heightPx: number, longPx: number) {
  const scale = longPx / Math.max(widthPx, heightPx);
  const density = Math.min(100_000, Math.max(1, 96 * scale));
  return sharp(Buffer.from(svg), { density, limitInputPixels: MAX_PIXELS * 2 }).resize(
    Math.max(1, Math.round(widthPx * scale)),
    Math.max(1, Math.round(heightPx * scale)),
    { fit: 'fill' },
  );
}
