import { thicknessOf } from '../artwork/thickness';
import { scaling, translation, chain } from '../geometry/matrix';
import { flatten, mapPath, pathBox, type Path } from '../paths/path';
import { coverageOf } from '../paths/scan';

/** Widths of strokes that are looked for, em: each a tenth more than the one before. */
export const STROKE_WIDTHS_EM: readonly number[] = Array.from({ length: 32 }, (_, i) => 0.0125 * 1.1 ** i);

/** The ink of a glyph, em², and which share of it is thinner than each of the widths. */
export interface GlyphStrokes {
  readonly area: number;
  readonly thinner: readonly number[];
}

/** Pixels to the em in which a glyph is looked at, room around it, and how far a polygon may be from its curve. */
const PX = 128;
const ROOM = 2;
const TOLERANCE_PX = 0.1;
/** Share of a pixel from which on it is of the glyph. */
const INK = 0.4;

/** How thick the strokes of an outline are: from the distances of its inside to its edge, so that a hairline is not made up for by a stem. */
export function glyphStrokes(outline: Path): GlyphStrokes {
  const box = pathBox(outline);
  if (!box) return { area: 0, thinner: STROKE_WIDTHS_EM.map(() => 0) };
  const toPx = chain(translation(-box.left, -box.top), scaling(PX), translation(ROOM, ROOM));
  const [width, height] = [box.right - box.left, box.bottom - box.top].map((em) => Math.ceil(em * PX) + 2 * ROOM) as [
    number,
    number,
  ];
  const cover = coverageOf(flatten(mapPath(outline, toPx), TOLERANCE_PX), { width, height });
  if (!cover) return { area: 0, thinner: STROKE_WIDTHS_EM.map(() => 0) };
  const ink = new Uint8Array(width * height);
  let area = 0;
  for (let y = 0; y < cover.height; y += 1)
    for (let x = 0; x < cover.width; x += 1) {
      const share = Math.min(1, Math.abs(cover.data[y * cover.width + x]!));
      area += share;
      if (share >= INK) ink[(y + cover.top) * width + x + cover.left] = 1;
    }
  const thickness = thicknessOf(ink, width, height);
  const counts = STROKE_WIDTHS_EM.map(() => 0);
  let all = 0;
  for (const px of thickness) {
    if (px === 0) continue;
    all += 1;
    // From the widest down: most strokes are thin.
    for (let i = counts.length - 1; i >= 0 && px < STROKE_WIDTHS_EM[i]! * PX; i -= 1) counts[i]! += 1;
  }
  return { area: area / PX ** 2, thinner: counts.map((count) => (all === 0 ? 0 : count / all)) };
}

/** Share of the ink that may be thinner than what is called the thickness of its strokes: corners and the tips of serifs count as thin (chosen by eye, no source). */
const TIPS = 0.1;

/** The strokes of some glyphs together. */
export class StrokesTogether {
  private readonly sums = STROKE_WIDTHS_EM.map(() => 0);
  private whole = 0;

  add({ area, thinner }: GlyphStrokes): void {
    this.whole += area;
    for (let i = 0; i < thinner.length; i += 1) this.sums[i]! += area * thinner[i]!;
  }

  /** How thick they are, em: all but a tenth of their ink is at least so thick. Null where there is no ink. */
  strokeEm(): number | null {
    if (this.whole === 0) return null;
    let [before, widthBefore] = [0, 0];
    for (const [i, width] of STROKE_WIDTHS_EM.entries()) {
      const share = this.sums[i]! / this.whole;
      if (share >= TIPS) return widthBefore + ((width - widthBefore) * (TIPS - before)) / (share - before || 1);
      [before, widthBefore] = [share, width];
    }
    return widthBefore;
  }
}
