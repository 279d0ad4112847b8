import { parseHex, type Rgb } from '../artwork/color';
import type { Pixels } from '../artwork/analysis';
import { readMini } from '../artwork/mini';
import type { Layer } from '../document/document';
import type { Box } from '../geometry/box';
import { apply, invert, type Matrix } from '../geometry/matrix';
import { ornamentMini } from '../ornaments/ornament-mini';
import { ownEntry } from '../own-entry';
import type { ArtworkSize } from './finding';

/** A color at a place, and how much of it: 0 where there is none. */
export interface Ink {
  readonly rgb: Rgb;
  readonly alpha: number;
}

const NOTHING: Ink = { rgb: [255, 255, 255], alpha: 0 };
const WHOLE: Box = { left: 0, top: 0, right: 1, bottom: 1 };

/** A layer as it lies on one geometry and one color of the good. */
interface Lying {
  readonly layer: Layer;
  readonly mini: Pixels | null;
  /** Its one color; null where it has its own. */
  readonly tint: Rgb | null;
  /** From mm to its unit square. */
  readonly toUnit: Matrix;
  readonly toMm: Matrix;
  /** What is seen of it, in its unit square. */
  readonly visible: Box;
}

const within = ({ left, top, right, bottom }: Box, x: number, y: number): boolean =>
  x >= left && x <= right && y >= top && y <= bottom;

/** What an artwork has at a place of its unit square. */
function inkOf({ layer, mini, tint }: Lying, x: number, y: number): Ink {
  if (!mini || x < 0 || y < 0 || x > 1 || y > 1) return NOTHING;
  const [u, v] = [
    Math.min(mini.widthPx - 1, Math.floor(x * mini.widthPx)),
    Math.min(mini.heightPx - 1, Math.floor(y * mini.heightPx)),
  ];
  const [r, g, b, a] = mini.rgba.slice(4 * (v * mini.widthPx + u), 4 * (v * mini.widthPx + u) + 4);
  return { rgb: tint ?? [r!, g!, b!], alpha: (a! / 255) * (layer.opacity ?? 1) };
}

/** Places along each side at which a layer is looked at. */
const PLACES = 12;
/** How far inside its edge the rim of a layer is looked at, as a share. */
const RIM = 0.003;
/** Alpha from which what lies beneath a place is taken for its ground. */
const GROUND = 0.5;
/** Alpha from which nothing beneath is seen. */
const OPAQUE = 0.98;

/** The layers of an area one over the other, as coarsely as the checks need it. Letters hide nothing: they are mostly holes. */
export class Stack {
  private readonly lying: readonly Lying[];

  constructor(
    layers: readonly (readonly [id: string, layer: Layer, toMm: Matrix, visible: Box | null | undefined])[],
    artworkOf: (id: string) => ArtworkSize | undefined,
    color: string | null,
  ) {
    this.lying = layers.map(([, layer, toMm, visible]) => {
      const version = color === null ? undefined : ownEntry(layer.versions, color);
      const artworkId = version?.artworkId ?? (layer.kind === 'artwork' ? layer.artworkId : null);
      const mini = artworkId === null ? undefined : artworkOf(artworkId)?.mini;
      return {
        layer,
        mini: layer.kind === 'ornament' ? ornamentMini(layer.ornament) : mini === undefined ? null : readMini(mini),
        tint: version?.tint ? parseHex(version.tint) : layer.kind === 'ornament' ? parseHex(layer.color) : null,
        toMm,
        toUnit: invert(toMm),
        visible: visible ?? WHOLE,
      };
    });
  }

  /** Places on what is seen of a layer, in mm, with what it prints there: letters and ornaments `own`. */
  places(index: number, own: Rgb): { readonly x: number; readonly y: number; readonly ink: Ink }[] {
    const one = this.lying[index]!;
    const { left, top, right, bottom } = one.visible;
    const found: { x: number; y: number; ink: Ink }[] = [];
    for (let i = 0; i < PLACES; i += 1)
      for (let j = 0; j < PLACES; j += 1) {
        const x = left + ((right - left) * (i + 0.5)) / PLACES;
        const y = top + ((bottom - top) * (j + 0.5)) / PLACES;
        const ink = one.mini ? inkOf(one, x, y) : { rgb: one.tint ?? own, alpha: 1 };
        if (ink.alpha > 0.1) found.push({ ...apply(one.toMm, { x, y }), ink });
      }
    return found;
  }

  /** Inked places along the rim of what is seen of a layer, in mm: a little of it may look out there. */
  rim(index: number): { readonly x: number; readonly y: number }[] {
    const one = this.lying[index]!;
    const { left, top, right, bottom } = one.visible;
    const [dx, dy] = [(right - left) * RIM, (bottom - top) * RIM];
    return Array.from({ length: PLACES }, (_, i) => (i + 0.5) / PLACES)
      .flatMap((t) => [
        { x: left + t * (right - left), y: top + dy },
        { x: left + t * (right - left), y: bottom - dy },
        { x: left + dx, y: top + t * (bottom - top) },
        { x: right - dx, y: top + t * (bottom - top) },
      ])
      .filter(({ x, y }) => !one.mini || inkOf(one, x, y).alpha > GROUND)
      .map((place) => apply(one.toMm, place));
  }

  /** What the layers from one index to another make together at a place, in mm. */
  private together(from: number, to: number, x: number, y: number): Ink {
    let [r, g, b, alpha] = [0, 0, 0, 0];
    for (let i = to - 1; i >= from && alpha < OPAQUE; i -= 1) {
      const one = this.lying[i]!;
      if (!one.mini) continue;
      const at = apply(one.toUnit, { x, y });
      if (!within(one.visible, at.x, at.y)) continue;
      const ink = inkOf(one, at.x, at.y);
      const share = (1 - alpha) * ink.alpha;
      [r, g, b] = [r + share * ink.rgb[0], g + share * ink.rgb[1], b + share * ink.rgb[2]];
      alpha += share;
    }
    return alpha === 0 ? NOTHING : { rgb: [r / alpha, g / alpha, b / alpha], alpha };
  }

  /** The color that lies beneath a layer at a place; null where that is the good itself. */
  groundAt(index: number, x: number, y: number): Rgb | null {
    const { rgb, alpha } = this.together(0, index, x, y);
    return alpha >= GROUND ? rgb : null;
  }

  /** Whether what lies over a layer hides it at a place. */
  isHidden(index: number, x: number, y: number): boolean {
    return this.together(index + 1, this.lying.length, x, y).alpha >= OPAQUE;
  }

  /** Whether something beside one layer is printed at a place. */
  isCoveredByOthers(index: number, x: number, y: number): boolean {
    return (
      this.together(0, index, x, y).alpha >= GROUND || this.together(index + 1, this.lying.length, x, y).alpha >= GROUND
    );
  }
}
