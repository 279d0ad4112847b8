import { formatHex, oklab, parseHex } from '../artwork/color';
import { likenessDistance, SAME_LIKENESS } from '../artwork/likeness';
import type { Pixels } from '../artwork/analysis';
import { readMini } from '../artwork/mini';
import { shareThinnerThan } from '../artwork/strokes';
import { colorOption, type Blank } from '../catalog/blank';
import type { ArtworkLayer } from '../document/document';
import { axisLengths } from '../geometry/matrix';
import { differenceOf } from './contrast';
import type { Add, ArtworkSize } from './findings';
import type { PlacedLayer } from './placed';
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
  lookForTwin(layer, artworks, add);
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
  const listed =
    names.length > 4 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more colors` : names.join(', ');
  add(
    'box',
    'warn',
    `${name} stands in a ${boxName(box)} box, which is seen on ${listed}.`,
    size.vector ? undefined : { kind: 'derive', derive: { kind: 'background' } },
  );
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

function lookForThin({ name }: ArtworkLayer, size: ArtworkSize, placed: readonly PlacedLayer[], add: Add): void {
  // On an opaque ground the lines are what is left without it.
  const ink = size.thinInk && size.thinInk.length > 0 ? size.thinInk : (size.unboxed?.thinInk ?? []);
  if (ink.length === 0) return;
  const worst = placed
    .map(({ matrix, geometry }) => {
      const sides = axisLengths(matrix);
      const { leastStrokeMm, needs } = THRESHOLDS[geometry.technique];
      const share = shareThinnerThan(ink, leastStrokeMm, Math.max(sides.x, sides.y));
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
    `${name} has an empty edge: ${Math.round(wide * 100)} × ${Math.round(high * 100)} % of it is seen. Sizes and snapping count the edge.`,
    { kind: 'derive', derive: { kind: 'trim' } },
  );
}

function lookForTwin({ name, artworkId }: ArtworkLayer, artworks: ReadonlyMap<string, ArtworkSize>, add: Add): void {
  const own = artworks.get(artworkId)!;
  if (!own.likeness) return;
  for (const [id, other] of artworks) {
    if (id === artworkId || own.derivedFrom === id || other.derivedFrom === artworkId || !alike(own, other)) continue;
    const larger = !own.vector && (other.vector || other.widthPx > own.widthPx * 1.02);
    const size = other.vector ? 'a vector' : `${other.widthPx} × ${other.heightPx} px`;
    const differs = larger ? `, ${size} instead of ${own.widthPx} × ${own.heightPx} px` : ` (${size})`;
    return add(
      'twin',
      'note',
      `${name} is the same picture as ${other.name ?? 'another artwork'}${differs}, which you brought too.`,
      larger ? { kind: 'artwork', artworkId: id } : undefined,
    );
  }
}

/** A channel that differs by more than this in a coarse picture is of another color (chosen by eye, no source). */
const OTHER_COLOR = 20;
/** Share of places at which two pictures may differ and still be the same: words that are left out change more. */
const OTHER_PLACES = 0.01;
/** Under this spread of light a picture is a plain field, which is like every other. */
const PLAIN = 6;

/** Whether two coarse pictures show the same, in color, shape and transparency; false for plain fields. */
function sameColors(one: string | undefined, two: string | undefined): boolean {
  const [a, b] = [one === undefined ? null : readMini(one), two === undefined ? null : readMini(two)];
  if (!a || !b || a.widthPx !== b.widthPx || a.heightPx !== b.heightPx) return false;
  let differ = 0;
  let [sum, squares] = [0, 0];
  const count = a.widthPx * a.heightPx;
  for (let i = 0; i < 4 * count; i += 4) {
    const light = ((a.rgba[i]! + a.rgba[i + 1]! + a.rgba[i + 2]!) / 3) * (a.rgba[i + 3]! / 255);
    sum += light;
    squares += light * light;
    const seen = (of: Pixels, c: number) => (of.rgba[i + c]! * of.rgba[i + 3]!) / 255;
    if (
      [0, 1, 2].some((c) => Math.abs(seen(a, c) - seen(b, c)) > OTHER_COLOR) ||
      Math.abs(a.rgba[i + 3]! - b.rgba[i + 3]!) > OTHER_COLOR
    )
      differ += 1;
  }
  const spread = Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
  return spread >= PLAIN && differ <= OTHER_PLACES * count;
}

/** Whether two artworks are the same picture: of the same shape, alike in light, and of the same colors where they lie. */
export const alike = (one: ArtworkSize, two: ArtworkSize): boolean =>
  Math.abs((one.widthPx * two.heightPx) / (one.heightPx * two.widthPx) - 1) < 0.02 &&
  one.likeness !== undefined &&
  two.likeness !== undefined &&
  likenessDistance(one.likeness, two.likeness) <= SAME_LIKENESS &&
  sameColors(one.mini, two.mini);
