import type { Line } from './lines';
import { isApart } from './paragraph';
import { chain, rotation, scaling, translation } from '../geometry/matrix';
import { mapPath, type InkedPath, type Step } from '../paths/path';
import { strokePath } from '../paths/stroke';
import type { Lettering } from './text';

/** The ink of all lines in the box, from below up, mm. */
export function draw(lettering: Lettering, lines: readonly Line[], sizeMm: number): InkedPath[] {
  const { boxWidthMm: width, boxHeightMm: height, lineHeight, tracking, fill, outline } = lettering;
  const first = lines.flatMap((line) => line.runs)[0]?.face;
  if (!first) return [];
  // The lines as a block stand in the middle of the box; a line's letters stand in the middle of its height by the font's own measure.
  const pitch = sizeMm * lineHeight;
  const block = sizeMm + (lines.length - 1) * pitch;
  const baseline = ((first.ascent - first.descent + 1) / 2) * sizeMm;
  const steps: Step[] = [];
  for (const [row, line] of lines.entries()) {
    const lineWidth = line.width * sizeMm;
    const left =
      lettering.align === 'center' ? (width - lineWidth) / 2 : lettering.align === 'right' ? width - lineWidth : 0;
    const y = (height - block) / 2 + row * pitch + baseline;
    steps.push(
      ...lettersOf(line, sizeMm, tracking, bending(lettering.arcDeg, lineWidth, left + lineWidth / 2, y), left),
    );
  }
  if (steps.length === 0) return [];
  const inks: InkedPath[] = [{ path: steps, color: fill }];
  if (outline && outline.widthMm > 0)
    inks.unshift({ path: strokePath(steps, outline.widthMm * 2, sizeMm / 400), color: outline.color });
  return inks;
}

/** The outlines of a line's glyphs, each placed by `bend` at the middle of its advance. */
export function lettersOf(
  line: Line,
  sizeMm: number,
  tracking: number,
  bend: (x: number) => { x: number; y: number; degrees: number },
  left: number,
): Step[] {
  const steps: Step[] = [];
  let x = left;
  let clusterBefore = -1;
  for (const { face, glyphs } of line.runs)
    for (const glyph of glyphs) {
      if (
        glyph.advance > 0 &&
        clusterBefore >= 0 &&
        glyph.cluster !== clusterBefore &&
        isApart(line.joined, clusterBefore, glyph.cluster)
      )
        x += (tracking / 1000) * sizeMm;
      const at = bend(x + (glyph.advance * sizeMm) / 2);
      const place = chain(
        translation(-glyph.advance / 2 + glyph.dx, -glyph.dy),
        scaling(sizeMm),
        rotation(at.degrees),
        translation(at.x, at.y),
      );
      steps.push(...mapPath(face.outline(glyph.id), place));
      x += glyph.advance * sizeMm;
      if (glyph.advance > 0) clusterBefore = glyph.cluster;
    }
  return steps;
}

/**
 * Where a point of a straight baseline comes to lie on an arc that is as long as the line and turns by `degrees` in all; the middle of the
 * line stays where it is. Letters are turned with it, not bent.
 */
function bending(degrees: number, length: number, middleX: number, y: number) {
  if (degrees === 0 || length === 0) return (x: number) => ({ x, y, degrees: 0 });
  const radius = length / ((degrees * Math.PI) / 180);
  return (x: number) => {
    const angle = (x - middleX) / radius;
    return {
      x: middleX + radius * Math.sin(angle),
      y: y + radius * (1 - Math.cos(angle)),
      degrees: (angle * 180) / Math.PI,
    };
  };
}
