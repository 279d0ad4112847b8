import type { Layer } from '../document/document';
import { trimBox } from '../geometry/area';
import { cornersOf, inset, type Box } from '../geometry/box';
import { apply } from '../geometry/matrix';
import type { Add } from './finding';
import { everywhere, place, SLACK_MM, type Laid, type PlaceRemedy } from './moves';
import { coversSheet, type PlacedLayer } from './placed';

/** Words in a picture that come too near to the edge of a geometry. */
interface NearWords {
  readonly on: PlacedLayer;
  /** How far inside the edge they are, mm; below 0: how far beyond. */
  readonly leftMm: number;
  readonly side: string;
  readonly box: Box;
  /** Around all words of the picture that are printed there. */
  readonly all: Box;
}

/** Where a part of a picture lies on a geometry, mm. */
function boxOn({ matrix }: PlacedLayer, part: Box): Box {
  const corners = cornersOf(part).map((corner) => apply(matrix, corner));
  const [xs, ys] = [corners.map(({ x }) => x), corners.map(({ y }) => y)];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

/** The words that come nearest to an edge; null where all keep away. What lies wholly beyond it was left out on purpose. */
function nearWords(on: PlacedLayer, words: readonly Box[]): NearWords | null {
  const { outline, safeMm } = on.geometry;
  if (outline !== null) return null;
  const trim = trimBox(on.geometry);
  const printed = words
    .map((part) => boxOn(on, part))
    .filter((box) => box.right > trim.left && box.left < trim.right && box.bottom > trim.top && box.top < trim.bottom);
  const found = printed.flatMap((box) =>
    [
      { side: 'left', leftMm: box.left - trim.left },
      { side: 'top', leftMm: box.top - trim.top },
      { side: 'right', leftMm: trim.right - box.right },
      { side: 'bottom', leftMm: trim.bottom - box.bottom },
    ].map((one) => ({ ...one, box })),
  );
  if (found.length === 0) return null;
  const worst = found.reduce((a, b) => (b.leftMm < a.leftMm ? b : a));
  if (worst.leftMm >= safeMm - SLACK_MM) return null;
  const all = {
    left: Math.min(...printed.map((box) => box.left)),
    right: Math.max(...printed.map((box) => box.right)),
    top: Math.min(...printed.map((box) => box.top)),
    bottom: Math.max(...printed.map((box) => box.bottom)),
  };
  return { on, ...worst, all };
}

/** A picture that covers its sheet moved so far that all words in it are inside the margin; null where it would not cover it any more. */
function movedInside(layer: Layer, { on, all }: NearWords, visible: Box | null | undefined): PlaceRemedy | null {
  const safe = inset(trimBox(on.geometry), on.geometry.safeMm);
  if (all.right - all.left > safe.right - safe.left || all.bottom - all.top > safe.bottom - safe.top) return null;
  const by = (low: number, high: number, from: number, to: number) =>
    low < from ? from - low : high > to ? to - high : 0;
  const [dx, dy] = [by(all.left, all.right, safe.left, safe.right), by(all.top, all.bottom, safe.top, safe.bottom)];
  const { matrix } = on;
  if (!coversSheet({ ...on, matrix: { ...matrix, e: matrix.e + dx, f: matrix.f + dy } }, visible)) return null;
  return place('Move its words inside the margin', layer, on, (was) => ({
    ...was,
    xMm: was.xMm + dx,
    yMm: was.yMm + dy,
  }));
}

/** Words inside a picture that the knife comes near to, or cuts. */
export function lookAtWords(laid: Laid, words: readonly Box[], where: string, add: Add): void {
  const { layer, placed, visible } = laid;
  const worst = placed
    .flatMap((on) => nearWords(on, words) ?? [])
    .reduce<NearWords | null>((a, b) => (!a || b.leftMm < a.leftMm ? b : a), null);
  if (!worst) return;
  const { on, leftMm, side, box } = worst;
  const first = movedInside(layer, worst, visible);
  const remedy =
    first &&
    everywhere(laid, first, (changed, now) => {
      const left = now.flatMap((one) => nearWords(one, words) ?? [])[0];
      return left ? movedInside(changed, left, visible) : null;
    });
  add(
    'words',
    'warn',
    leftMm < 0
      ? `Words in ${layer.name} run ${(-leftMm).toFixed(1)} mm over the edge at the ${side} of the ${where}: they are cut off.`
      : `Words in ${layer.name} come within ${leftMm.toFixed(1)} mm of the edge at the ${side} of the ${where}; ${on.geometry.safeMm} mm are the safe margin.`,
    remedy ?? undefined,
    { geometryId: on.geometryId, box },
  );
}
