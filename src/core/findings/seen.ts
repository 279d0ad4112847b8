import { formatHex, parseHex } from '../artwork/color';
import type { Layer } from '../document/document';
import type { Box } from '../geometry/box';
import type { Technique } from '../geometry/area';
import { apply } from '../geometry/matrix';
import { differenceOf, dyedOtherwise, ownColor, poorContrast, seenTint, type Ground } from './contrast';
import type { Ink } from './ink';
import type { Add, ArtworkSize } from './finding';
import type { Laid } from './moves';
import { stripOn, stripRemedy } from './strip';
import type { PlacedLayer } from './placed';
import type { Remedy } from './remedy';
import { Stack } from './stack';
import { HARDLY_SEEN, MUCH_LOST } from './thresholds';

/** A layer that is printed. */
export interface Printed extends Laid {
  readonly id: string;
  readonly add: Add;
}

/** What all layers of an area share. */
export interface AreaInView {
  readonly where: string;
  readonly technique: Technique;
  readonly grounds: readonly Ground[];
  readonly artworkOf: (id: string) => ArtworkSize | undefined;
  readonly inksOf: (artworkId: string) => readonly Ink[];
  /** Keys of the chosen variants in a color of the good. */
  readonly keysIn: (color: string) => readonly string[];
}

/** Share of a layer's places that lie over another layer from which on that is its ground. */
const OVER_LAYERS = 0.5;
/** Share of a layer's places that are hidden from which on nothing of it is seen (a rim may show in the coarse picture). */
const BEHIND = 0.97;
/** Corners of two layers that lie no further apart are in the same place, mm. */
const SAME_PLACE_MM = 1;

/** The stack of an area on one of its geometries and its first color. */
const stackOf = (layers: readonly Printed[], { artworkOf, grounds }: AreaInView, geometry = 0): Stack =>
  new Stack(
    layers.map(({ id, layer, placed, visible }) => [id, layer, placed[geometry]!.matrix, visible] as const),
    artworkOf,
    grounds[0]?.code ?? null,
  );

/** Share of a bare strip that other layers may leave bare. */
const COVERED = 0.95;
/** Places along a strip, and across it, at which it is looked at. */
const STRIP_PLACES = { along: 24, across: 3 };

/** Whether what is bare of one layer is printed by others. */
function isCovered(stack: Stack, i: number, { left, top, right, bottom }: Box): boolean {
  const isUpright = bottom - top > right - left;
  const [across, down] = isUpright
    ? [STRIP_PLACES.across, STRIP_PLACES.along]
    : [STRIP_PLACES.along, STRIP_PLACES.across];
  let covered = 0;
  for (let a = 0; a < across; a += 1)
    for (let b = 0; b < down; b += 1) {
      const x = left + ((right - left) * (a + 0.5)) / across;
      const y = top + ((bottom - top) * (b + 0.5)) / down;
      if (stack.isCoveredByOthers(i, x, y)) covered += 1;
    }
  return covered >= COVERED * across * down;
}

/** Strips and wedges that pictures leave bare along the edge of goods with bleed; none where another layer lies there. */
export function lookAtStrips(layers: readonly Printed[], view: AreaInView): void {
  for (const [i, one] of layers.entries()) {
    const { layer, placed, visible, add } = one;
    if (layer.kind !== 'artwork') continue;
    const strips = placed.flatMap((on, geometry) => {
      const strip = stripOn(on, visible);
      return strip && !(layers.length > 1 && isCovered(stackOf(layers, view, geometry), i, strip.bare)) ? [strip] : [];
    });
    if (strips.length === 0) continue;
    const worst = strips.reduce((a, b) => (b.stripMm > a.stripMm ? b : a));
    add(
      'strip',
      'warn',
      `${layer.name} leaves a strip of ${worst.stripMm.toFixed(1)} mm bare at the ${worst.side} of the ${view.where}, bleed included.`,
      stripRemedy(one, worst),
      { geometryId: worst.on.geometryId, box: worst.bare },
    );
  }
}

/** What cannot be seen: layers in the color of what is beneath them, behind others, or on top of themselves. */
export function lookAtSeen(layers: readonly Printed[], view: AreaInView): void {
  const stack = stackOf(layers, view);
  for (const [i, one] of layers.entries()) {
    if (lookForTwice(layers, i)) continue;
    // What its own twin hides is told at the twin.
    const hasTwin = layers.slice(i + 1).some((other) => isSame(one, other));
    if (!hasTwin && lookForBehind(stack, i, one)) continue;
    if (!lookAtGround(stack, i, one, view)) lookAtGood(one, view);
  }
}

const corners = ({ matrix }: PlacedLayer) => [0, 1].flatMap((x) => [0, 1].map((y) => apply(matrix, { x, y })));

/** Whether two layers print the same in one place. */
function isSame(one: Printed, other: Printed): boolean {
  if (one.layer.kind !== 'artwork' || other.layer.kind !== 'artwork') return false;
  if (one.layer.artworkId !== other.layer.artworkId) return false;
  const own = corners(one.placed[0]!);
  return corners(other.placed[0]!).every((p, k) => Math.hypot(p.x - own[k]!.x, p.y - own[k]!.y) < SAME_PLACE_MM);
}

/** Two same layers in one place: the upper one changes nothing, but makes soft edges harder. */
function lookForTwice(layers: readonly Printed[], i: number): boolean {
  const one = layers[i]!;
  if (!layers.slice(0, i).some((other) => isSame(one, other))) return false;
  one.add('twice', 'warn', `${one.layer.name} lies twice in the same place; one of them is enough.`, { kind: 'hide' });
  return true;
}

function lookForBehind(stack: Stack, i: number, { layer, add }: Printed): boolean {
  const places = [...stack.places(i, [0, 0, 0]), ...stack.rim(i)];
  const hidden = places.filter(({ x, y }) => stack.isHidden(i, x, y)).length;
  if (places.length === 0 || hidden / places.length < BEHIND) return false;
  add('behind', 'warn', `${layer.name} is hidden behind another layer.`, { kind: 'hide' });
  return true;
}

/** How a layer is seen on other layers where it mostly lies on such; false where it lies on the good itself. */
function lookAtGround(stack: Stack, i: number, { layer, add }: Printed, { technique, grounds }: AreaInView): boolean {
  const own = layer.kind === 'artwork' ? ([0, 0, 0] as const) : parseHex(ownColor(layer));
  const places = stack.places(i, own).map(({ x, y, ink }) => ({ ink, ground: stack.groundAt(i, x, y) }));
  const over = places.flatMap(({ ink, ground }) => (ground ? [{ ink, ground }] : []));
  if (places.length === 0 || over.length / places.length < OVER_LAYERS) return false;
  const hex = ([r, g, b]: readonly number[]) => formatHex([Math.round(r!), Math.round(g!), Math.round(b!)]);
  let [lost, all, least] = [0, 0, Infinity];
  for (const { ink, ground } of over) {
    const difference = differenceOf(hex(ink.rgb), hex(ground));
    all += ink.alpha;
    if (difference >= HARDLY_SEEN) continue;
    lost += ink.alpha;
    least = Math.min(least, difference);
  }
  if (lost / all < MUCH_LOST) return true;
  const tint = seenTint(
    [...new Set(over.map(({ ground }) => hex(ground)))].slice(0, 20),
    technique === 'sublimation' ? 'giclee' : technique,
  );
  add(
    'contrast',
    'warn',
    `${layer.name} has low contrast on what lies beneath it: ${Math.round((lost / all) * 100)} % of it nearly matches that color (ΔE ${least.toFixed(1)}, visible from ${HARDLY_SEEN}).`,
    tint === null ? undefined : overRemedy(layer, tint, grounds),
  );
  return true;
}

/** How a layer is seen on the good. */
function lookAtGood({ layer, add }: Printed, view: AreaInView): void {
  const { technique, grounds, inksOf } = view;
  const poor = poorContrast(layer, grounds, technique, inksOf);
  if (poor) {
    const codes = poor.colors.flatMap(({ code }) => code ?? []);
    const dye = technique === 'sublimation' && poor.tint === null ? ' Dye cannot be lighter than the good.' : '';
    add(
      'contrast',
      'warn',
      `${layer.name} has low contrast on ${namesOf(poor.colors)}: ${Math.round(poor.lost * 100)} % of it nearly matches that color (ΔE ${poor.difference.toFixed(1)}, visible from ${HARDLY_SEEN}).${dye}`,
      poor.tint === null ? leaveOut(poor.colors, view) : tintRemedy(layer, codes, poor.tint),
    );
  }
  if (technique !== 'sublimation') return;
  const dyed = dyedOtherwise(
    layer,
    grounds.filter((ground) => !poor?.colors.includes(ground)),
    inksOf,
  );
  if (dyed)
    add(
      'dyed',
      'warn',
      `Dye takes the color of the good: on ${namesOf(dyed.colors)} the colors of ${layer.name} come out different (by ${dyed.difference.toFixed(0)} on average; 2 is just seen side by side).`,
      leaveOut(dyed.colors, view),
    );
}

const namesOf = (colors: readonly Ground[]): string => colors.map((color) => color.name).join(', ');

/** Does not sell some colors of the good; undefined where no other would be left. */
function leaveOut(colors: readonly Ground[], { grounds, keysIn }: AreaInView): Remedy | undefined {
  if (colors.length === grounds.length) return undefined;
  return {
    kind: 'leave-out',
    name: `Leave out ${namesOf(colors)}`,
    variantKeys: colors.flatMap(({ code }) => (code === null ? [] : keysIn(code))),
  };
}

/** A layer over others in another color: letters and ornaments wherever they are, a picture on every color of the good. */
function overRemedy(layer: Layer, tint: string, grounds: readonly Ground[]): Remedy | undefined {
  if (layer.kind !== 'artwork') return { kind: 'ink', ink: tint };
  return tintRemedy(
    layer,
    grounds.flatMap(({ code }) => code ?? []),
    tint,
  );
}

/** The layer in another color: on those colors of the good, or where it has only one, altogether. */
function tintRemedy(layer: Layer, colors: readonly string[], tint: string): Remedy | undefined {
  if (colors.length > 0) return { kind: 'tint', colors, tint };
  return layer.kind === 'artwork' ? undefined : { kind: 'ink', ink: tint };
}
