import { andMore } from '../words/and-more';
import { formatHex, oklab, parseHex } from '../artwork/color';
import { shareThinnerThan } from '../artwork/strokes';
import { colorOption, type Blank } from '../catalog/blank';
import type { ArtworkLayer, Layer } from '../document/document';
import { axisLengths } from '../geometry/matrix';
import { differenceOf } from './contrast';
import type { Add, ArtworkSize } from './finding';
import type { PlacedLayer } from './placed';
import { lookForTwin } from './twin';
import { BOX_SEEN, HALF_TRANSPARENT, THIN_INK, THRESHOLDS } from './thresholds';

interface Around {
  readonly blank: Blank;
  /** Codes of the chosen colors. */
  readonly colors: readonly string[];
  readonly placed: readonly PlacedLayer[];
}

/** What the pixels of an artwork bring with them: a box around the art, soft shadows, hairlines, an empty edge, a twin. */
export function lookAtPicture(
  layer: ArtworkLayer,
  artworks: ReadonlyMap<string, ArtworkSize>,
  around: Around,
  add: Add,
): void {
  const size = artworks.get(layer.artworkId)!;
  lookForBox(layer, size, around, add);
  lookForHalfTransparent(layer, size, around.placed, add);
  lookForThin(layer, size, around.placed, add);
  lookForEdge(layer, size, add);
  lookForTwin(layer, size, add);
}

/** White, black or the color itself, for a sentence. */
function boxName(hex: string): string {
  const [lightness, a, b] = oklab(parseHex(hex));
  if (Math.hypot(a, b) < 0.02) return lightness > 0.95 ? 'white' : lightness < 0.25 ? 'black' : 'gray';
  return `flat ${formatHex(parseHex(hex))}`;
}

function lookForBox({ name }: ArtworkLayer, size: ArtworkSize, { blank, colors, placed }: Around, add: Add): void {
  const box = size.flatBox;
  // On paper a flat ground is part of the picture; on cloth it is a box with corners.
  if (!box || placed.some(({ geometry }) => geometry.bleedMm > 0)) return;
  const seenOn = (colorOption(blank)?.values ?? []).filter(
    ({ code, hex }) => hex !== null && colors.includes(code) && differenceOf(box, hex) >= BOX_SEEN,
  );
  if (seenOn.length === 0) return;
  const names = seenOn.map((color) => color.name);
  const listed = names.length > 4 ? andMore(names, 3, { of: 'colors' }) : names.join(', ');
  add('box', 'warn', `${name} stands in a ${boxName(box)} box, which is seen on ${listed}.`, {
    kind: 'derive',
    derive: { kind: 'background' },
  });
}

function lookForHalfTransparent(
  { name }: ArtworkLayer,
  size: ArtworkSize,
  placed: readonly PlacedLayer[],
  add: Add,
): void {
  const share = size.halfTransparent ?? 0;
  if (share < HALF_TRANSPARENT || placed.every(({ geometry }) => THRESHOLDS[geometry.technique].halfTransparent))
    return;
  const sewn = placed.some(({ geometry }) => geometry.technique === 'embroidery');
  add(
    'half-transparent',
    'warn',
    `${Math.max(1, Math.round(share * 100))} % of ${name} is half transparent; ${sewn ? 'thread is sewn or not' : 'on cloth it prints as a pale, speckled ground'}.`,
    size.vector ? undefined : { kind: 'derive', derive: { kind: 'solid' } },
  );
}

/** A layer that is set to less than full opacity where ink or thread cannot be laid half. */
export function lookForFaded({ name, opacity = 1 }: Layer, placed: readonly PlacedLayer[], add: Add): void {
  if (opacity >= 1 || placed.every(({ geometry }) => THRESHOLDS[geometry.technique].halfTransparent)) return;
  const sewn = placed.some(({ geometry }) => geometry.technique === 'embroidery');
  add(
    'faded',
    'warn',
    `${name} is set to ${Math.round(opacity * 100)} % opacity; ${sewn ? 'thread is sewn or not' : 'on cloth it prints as a pale, speckled ground'}.`,
    { kind: 'opaque' },
  );
}

function lookForThin({ name }: ArtworkLayer, size: ArtworkSize, placed: readonly PlacedLayer[], add: Add): void {
  // On an opaque ground the lines are what stands on it.
  const inks = [size.thinInk ?? [], size.groundInk ?? size.unboxed?.thinInk ?? []];
  const worst = placed
    .map(({ matrix, geometry }) => {
      const sides = axisLengths(matrix);
      const { leastStrokeMm, needs } = THRESHOLDS[geometry.technique];
      const share = Math.max(...inks.map((ink) => shareThinnerThan(ink, leastStrokeMm, Math.max(sides.x, sides.y))));
      return { share, leastStrokeMm, needs };
    })
    .reduce((a, b) => (b.share > a.share ? b : a));
  if (worst.share < THIN_INK) return;
  add(
    'thin',
    'warn',
    `${Math.round(worst.share * 100)} % of ${name} is thinner than ${worst.leastStrokeMm} mm, which ${worst.needs} does not hold. Make it larger or its lines bolder.`,
  );
}

/** Shares of an artwork's sides that are seen, under which its empty edge is told (chosen by eye, no source). */
const MUCH_EDGE = 0.9;

function lookForEdge({ name }: ArtworkLayer, { visible, vector }: ArtworkSize, add: Add): void {
  if (!visible || vector) return;
  const [wide, high] = [visible.right - visible.left, visible.bottom - visible.top];
  if (Math.min(wide, high) >= MUCH_EDGE) return;
  add(
    'edge',
    'note',
    `${name} has an empty edge: ${Math.round(wide * 100)} × ${Math.round(high * 100)} % of it is filled. Sizes and snapping count the edge.`,
    { kind: 'derive', derive: { kind: 'trim' } },
  );
}
