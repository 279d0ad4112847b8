import type { Looks } from '../artwork/looks';
import type { ThinInk } from '../artwork/strokes';
import { areaTitle, type Area, type Blank } from '../catalog/blank';
import type { Layer, ProductDocument, TextLayer } from '../document/document';
import type { Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { layerMatrix } from '../geometry/fit';
import { axisLengths } from '../geometry/matrix';
import { effectiveDpi, sharpWidthMm } from '../geometry/placement';
import { FALLBACK, FAMILIES, familyByCode, type FontFamily } from '../lettering/families';
import { scriptOf } from '../lettering/itemize';
import type { SetText } from '../lettering/layout';
import { settableText } from '../lettering/text';
import { chosenColors, chosenGeometryIds } from '../listing/form';
import { inOrder } from '../order/order';
import { layerAspect } from '../print/plan';

import { groundsOf, type Ink } from './contrast';
import { lookAtPicture } from './picture';
import {
  isUnprinted,
  largerRemedy,
  outsideBy,
  overMargin,
  overTrim,
  sharpRemedy,
  stretchedBy,
  type Laid,
} from './place';
import type { PlacedLayer } from './placed';
import type { Remedy } from './remedy';
import { lookAtSeen, lookAtStrips, type Printed } from './seen';
import { lookAtThreads } from './thread-count';
import { THRESHOLDS } from './thresholds';
import { ownEntry } from '../own-entry';

export type Severity = 'stop' | 'warn' | 'note';

/** One thing that the checks have to say about a design. */
export interface Finding {
  readonly id: string;
  readonly severity: Severity;
  readonly areaKey: string;
  readonly layerId: string;
  /** The geometry on which it is so, and the part of it, mm of its trim; absent: wherever the layer is. */
  readonly spot?: Spot;
  /** A sentence with numbers. */
  readonly says: string;
  readonly remedy?: Remedy;
  /** Another way to do something about it. */
  readonly also?: Remedy;
}

/** What stops a product until somebody says that it is meant. */
const ACCEPTABLE_STOPS: ReadonlySet<string> = new Set(['fonts-missing']);

/** Whether a person can accept a finding as it stands. */
export const isAcceptable = ({ id, severity }: Pick<Finding, 'id' | 'severity'>): boolean =>
  severity === 'warn' || (severity === 'stop' && ACCEPTABLE_STOPS.has(id.split(':')[0]!));

/** Where on the surface a finding is. */
export interface Spot {
  readonly geometryId: string;
  readonly box: Box;
}

/** What the checks need of an artwork. */
export interface ArtworkSize {
  readonly vector: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What is visible of it, as shares of width and height; absent: all. */
  readonly visible?: Box | null;
  readonly mainColors?: readonly Ink[];
  /** The one color that runs around it like a box. */
  readonly flatBox?: string | null;
  /** What is left of it without that box. */
  readonly unboxed?: Looks['unboxed'];
  /** Share of what is seen of it that is half transparent. */
  readonly halfTransparent?: number;
  readonly thinInk?: readonly ThinInk[];
  /** What lies where on it, coarsely. */
  readonly mini?: string;
  /** Its colors as threads would have to tell them apart. */
  readonly threadColors?: readonly Ink[];
  readonly likeness?: string;
  readonly name?: string;
  /** The artwork that it was made out of: of course these are alike. */
  readonly derivedFrom?: string | null;
  /** Made larger than it was by resampling: the width that it had. */
  readonly enlargedFromPx?: number;
  /** The size of the artwork in whose place it was put everywhere. */
  readonly replaced?: { readonly name: string; readonly widthPx: number; readonly heightPx: number } | null;
  /** Fonts of its text that do not ship with the app. */
  readonly missingFonts?: readonly string[];
}

const mm = (value: number) => `${Math.round(value)} mm`;

/** What the checks need of a text as it is set. */
export type SetLettering = Pick<SetText, 'missing' | 'borrowed' | 'fits' | 'sizeMm'> &
  Partial<Pick<SetText, 'bounds' | 'borrowedFrom' | 'capMm' | 'smallMm' | 'strokeMm'>>;

/** Resolution, letters and place of every layer in every geometry in use; the worst geometry speaks for a layer. */
export function findFindings(
  doc: ProductDocument,
  blank: Blank,
  artworks: { readonly [id: string]: ArtworkSize | undefined },
  /** Texts as they are set, by layer; one that is not there yet is not checked. */
  letterings: { readonly [layerId: string]: SetLettering | undefined } = {},
): Finding[] {
  const findings: Finding[] = [];
  const sizes = new Map(Object.entries(artworks).flatMap(([id, size]) => (size ? [[id, size] as const] : [])));
  const colors = chosenColors(doc, blank).flatMap((color) => color ?? []);
  const looking: Looking = { doc, blank, artworks, letterings, sizes, colors, findings };
  for (const area of blank.areas) lookAtArea(area, looking);
  const weight: Record<Severity, number> = { stop: 0, warn: 1, note: 2 };
  return findings.sort((a, b) => weight[a.severity] - weight[b.severity]);
}

/** What is looked at, and what was found so far. */
interface Looking {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly artworks: { readonly [id: string]: ArtworkSize | undefined };
  readonly letterings: { readonly [layerId: string]: SetLettering | undefined };
  readonly sizes: ReadonlyMap<string, ArtworkSize>;
  /** Codes of the chosen colors. */
  readonly colors: readonly string[];
  readonly findings: Finding[];
}

/** Each layer of an area by itself, and then all of them together. */
function lookAtArea(area: Area, looking: Looking): void {
  const { doc, blank, artworks, colors, findings } = looking;
  const geometryIds = chosenGeometryIds(doc, blank, area.key);
  const inUse = geometryIds.length > 0 ? geometryIds : area.geometries.slice(0, 1).map((g) => g.geometryId);
  const where = areaTitle(blank, area).toLocaleLowerCase('en');
  const printed = inOrder(ownEntry(doc.areas, area.key)?.layers ?? {}).flatMap(([id, layer]) => {
    const laid = layOutLayer(id, layer, area, inUse, looking);
    return laid && lookAtLayer(laid, where, looking) ? [laid] : [];
  });
  const view = {
    where,
    technique: ownEntry(blank.geometries, inUse[0]!)!.technique,
    grounds: groundsOf(blank, colors),
    artworkOf: (id: string) => ownEntry(artworks, id),
    inksOf: (id: string) => inksOfArtwork(ownEntry(artworks, id)),
  };
  lookAtStrips(printed, view);
  lookAtSeen(printed, view);
  lookAtThreads(doc, blank, area, inUse, artworks, findings);
}

/** Where a layer lies on every geometry in use; null where it is hidden, or its artwork is not known. */
function layOutLayer(
  layerId: string,
  layer: Layer,
  area: Area,
  inUse: readonly string[],
  { blank, sizes, letterings, findings }: Looking,
): Printed | null {
  const aspect = layer.hidden ? null : layerAspect(layer, sizes);
  if (aspect === null) return null;
  const layOut = (one: Layer) =>
    inUse.map((id): PlacedLayer => ({
      geometryId: id,
      geometry: ownEntry(blank.geometries, id)!,
      matrix: layerMatrix(one, aspect, id, blank.geometries),
    }));
  const add: Add = (code, severity, says, remedy, spot, also) =>
    void findings.push({
      id: `${code}:${layerId}`,
      severity,
      areaKey: area.key,
      layerId,
      says,
      ...(remedy ? { remedy } : {}),
      ...(spot ? { spot } : {}),
      ...(also ? { also } : {}),
    });
  const size = layer.kind === 'artwork' ? sizes.get(layer.artworkId) : undefined;
  const visible = layer.kind === 'artwork' ? size?.visible : lettersIn(layer, ownEntry(letterings, layerId));
  return { id: layerId, layer, placed: layOut(layer), visible, mini: size?.mini, layOut, add };
}

/** What is said of one layer alone; false where nothing of it is printed, which is all that is said then. */
function lookAtLayer(laid: Printed, where: string, { blank, sizes, colors, letterings }: Looking): boolean {
  const { id, layer, placed, add } = laid;
  if (isUnprinted(laid)) {
    const says = `${layer.name} lies outside the ${where}: nothing of it is printed, and the area is charged for.`;
    add('empty', 'warn', says, { kind: 'hide' });
    return false;
  }
  if (layer.kind === 'artwork') {
    lookAtResolution(layer, sizes.get(layer.artworkId)!, placed, where, add);
    lookAtPicture(layer, sizes, { blank, colors, placed }, add);
  }
  if (layer.kind === 'text') lookAtLetters(layer, ownEntry(letterings, id), placed, where, add);
  lookAtPlace(laid, where, add);
  const stretched = stretchedBy(layer, placed, blank.geometries);
  if (stretched)
    add(
      'stretched',
      'warn',
      `${layer.name} is stretched by ${Math.round(stretched.share * 100)} % on ${shapeName(ownEntry(blank.geometries, stretched.geometryId)!)}.`,
      { kind: 'fit', fit: 'fill' },
    );
  return true;
}

export type Add = (code: string, severity: Severity, says: string, remedy?: Remedy, spot?: Spot, also?: Remedy) => void;

/** Where the letters of a text lie in its box, as shares of it: they can be smaller than the box, or run out of it on an arc. */
function lettersIn(layer: Layer, set: SetLettering | undefined): Box | null {
  if (layer.kind !== 'text' || !set?.bounds) return null;
  const { boxWidthMm, boxHeightMm } = layer.lettering;
  const { left, top, right, bottom } = set.bounds;
  return { left: left / boxWidthMm, top: top / boxHeightMm, right: right / boxWidthMm, bottom: bottom / boxHeightMm };
}

const shapeName = ({ widthMm, heightMm }: Geometry): string => `${widthMm} × ${heightMm} mm`;

function lookAtResolution(
  layer: Layer,
  size: ArtworkSize,
  placed: readonly PlacedLayer[],
  where: string,
  add: Add,
): void {
  const { name } = layer;
  if (size.missingFonts && size.missingFonts.length > 0)
    add(
      'fonts-missing',
      'stop',
      `${name} holds text in ${size.missingFonts.join(', ')}, which is not here: it is set in ${familyByCode(FALLBACK)!.name} instead. Look at it and accept it as it is, or turn its text into outlines and upload it again.`,
    );
  if (size.vector) return;
  const worst = placed
    .map((p) => ({ ...p, dpi: effectiveDpi(p.matrix, size.widthPx, size.heightPx) }))
    .reduce((a, b) => (b.dpi / b.geometry.dpi < a.dpi / a.geometry.dpi ? b : a));
  const sharpMm = sharpWidthMm(size.widthPx, worst.geometry.dpi);
  const sharp = mm(sharpMm);
  const share = worst.dpi / worst.geometry.dpi;
  const { softShare, blurryShare } = THRESHOLDS[worst.geometry.technique];
  if (size.enlargedFromPx) {
    // Pixels that were made up say nothing: it is judged by those that it had.
    const detailDpi = (worst.dpi * size.enlargedFromPx) / size.widthPx;
    add(
      'enlarged',
      detailDpi / worst.geometry.dpi < softShare ? 'warn' : 'note',
      `${name} was enlarged from ${size.enlargedFromPx} px wide: it has the detail of ${Math.round(detailDpi)} DPI on the ${where}.`,
    );
  }
  if (size.replaced && size.replaced.widthPx * size.replaced.heightPx > size.widthPx * size.heightPx * 1.02)
    add(
      'replaced-smaller',
      'warn',
      `${name} has ${size.widthPx} × ${size.heightPx} px; ${size.replaced.name}, which it replaced, had ${size.replaced.widthPx} × ${size.replaced.heightPx}.`,
    );
  if (share < softShare)
    add(
      'resolution',
      share < blurryShare ? 'stop' : 'warn',
      `${name} has ${Math.round(worst.dpi)} DPI on the ${where}; ${worst.geometry.dpi} is wanted. It is sharp up to ${sharp} wide.`,
      sharpRemedy(layer, worst, sharpMm) ?? undefined,
      undefined,
      enlargeRemedy(size, worst) ?? undefined,
    );
}

/** Most pixels that an artwork is enlarged to. */
const MOST_PIXELS = 120e6;

/** Enlarged so far that its density is what is wanted. */
function enlargeRemedy(size: ArtworkSize, worst: { readonly dpi: number; readonly geometry: Geometry }): Remedy | null {
  const widthPx = Math.ceil((size.widthPx * worst.geometry.dpi) / worst.dpi);
  if ((widthPx * widthPx * size.heightPx) / size.widthPx > MOST_PIXELS) return null;
  return { kind: 'derive', derive: { kind: 'enlarge', widthPx } };
}

function lookAtPlace(laid: Laid, where: string, add: Add): void {
  const { name } = laid.layer;
  const outside = outsideBy(laid);
  if (outside)
    add(
      'outside',
      'warn',
      `${name} reaches ${outside.overMm.toFixed(1)} mm outside the ${where}; that part is not printed.`,
      outside.remedy,
      outside.spot,
    );
  const cut = overTrim(laid);
  if (cut && !outside)
    add(
      'cut',
      'warn',
      `${name} runs ${cut.cutMm.toFixed(1)} mm over the trim at the ${cut.side} of the ${where}: that part is cut off.`,
      cut.remedy,
      cut.spot,
    );
  const over = overMargin(laid);
  if (over)
    add(
      'margin',
      'warn',
      `${name} comes within ${over.leftMm.toFixed(1)} mm of the edge of the ${where}; ${over.safeMm} mm are the safe margin.`,
      over.remedy,
      over.spot,
    );
}

function lookAtLetters(
  layer: TextLayer,
  set: SetLettering | undefined,
  placed: readonly PlacedLayer[],
  where: string,
  add: Add,
): void {
  const { lettering, name } = layer;
  if (settableText(lettering.text).trim() === '')
    return add(
      'no-letters',
      'warn',
      `${name} holds no letters: nothing of it is printed, and the ${where} is charged for.`,
      {
        kind: 'hide',
      },
    );
  if (!set) return;
  const family = familyByCode(lettering.family)?.name ?? lettering.family;
  const listed = (characters: readonly string[]) =>
    characters.length > 5
      ? `${characters.slice(0, 5).join(' ')} and ${characters.length - 5} more`
      : characters.join(' ');
  if (set.missing.length > 0)
    add(
      'letters-missing',
      'stop',
      `No font here has ${listed(set.missing)}; it would be printed as an empty box. Take it out or write it otherwise.`,
    );
  if (set.borrowed.length > 0) {
    const [from, ...others] = set.borrowedFrom ?? [];
    const other = from !== undefined && others.length === 0 ? familyByCode(from) : familyWith(set.borrowed);
    add(
      'letters-borrowed',
      'warn',
      `${family} has no ${listed(set.borrowed)}; ${set.borrowed.length === 1 ? 'it is' : 'they are'} set in another font.${other ? ` ${other.name} has all of them.` : ''}`,
      other ? { kind: 'family', family: other.code } : undefined,
    );
  }
  if (!set.fits)
    add(
      'letters-over',
      'warn',
      lettering.shrinkToMm === null
        ? `${name} runs out of its box. Make the box larger or the letters smaller, or let them shrink.`
        : `${name} does not fit its box even at ${lettering.shrinkToMm} mm, the smallest size that you allow.`,
    );
  lookAtHeight(layer, set, placed, add);
  lookAtStrokes(layer, set, placed, add);
}

/** How thick the strokes of letters come out, in whichever geometry they are thinnest. */
function lookAtStrokes(layer: TextLayer, { strokeMm }: SetLettering, placed: readonly PlacedLayer[], add: Add): void {
  if (strokeMm == null) return;
  const worst = placed
    .map((on) => {
      const { leastStrokeMm, needs } = THRESHOLDS[on.geometry.technique];
      const thickMm = (strokeMm * axisLengths(on.matrix).y) / layer.lettering.boxHeightMm;
      return { on, thickMm, leastStrokeMm, needs };
    })
    .reduce((a, b) => (b.thickMm / b.leastStrokeMm < a.thickMm / a.leastStrokeMm ? b : a));
  if (worst.thickMm >= worst.leastStrokeMm) return;
  add(
    'thin',
    'warn',
    `The strokes of ${layer.name} are about ${worst.thickMm.toFixed(1)} mm thick; ${worst.needs} holds ${worst.leastStrokeMm} mm at least. Make the letters larger or bolder.`,
    largerRemedy(layer, worst.on, worst.leastStrokeMm / worst.thickMm),
  );
}

/** How high letters come out, in whichever geometry they are lowest. */
function lookAtHeight(layer: TextLayer, set: SetLettering, placed: readonly PlacedLayer[], add: Add): void {
  const heights = [
    { what: 'small letters', ownMm: set.smallMm, least: 'leastSmallMm' },
    { what: 'capitals', ownMm: set.capMm, least: 'leastCapMm' },
  ] as const;
  const all = placed.flatMap((on) => {
    const scale = axisLengths(on.matrix).y / layer.lettering.boxHeightMm;
    return heights.flatMap(({ what, ownMm, least }) => {
      if (ownMm == null) return [];
      const thresholds = THRESHOLDS[on.geometry.technique];
      return [{ on, what, heightMm: ownMm * scale, leastMm: thresholds[least], needs: thresholds.needs }];
    });
  });
  if (all.length === 0) return;
  const worst = all.reduce((a, b) => (b.heightMm / b.leastMm < a.heightMm / a.leastMm ? b : a));
  if (worst.heightMm >= worst.leastMm) return;
  add(
    'letters-small',
    'warn',
    `The ${worst.what} of ${layer.name} are ${worst.heightMm.toFixed(1)} mm high; ${worst.needs} needs ${worst.leastMm} mm at least.`,
    largerRemedy(layer, worst.on, worst.leastMm / worst.heightMm),
  );
}

/** What an artwork prints, without a box around it: that is told as a box, and nobody misses it where it is not seen. */
const inksOfArtwork = (size: ArtworkSize | undefined): readonly Ink[] =>
  size?.unboxed?.mainColors ?? size?.mainColors ?? [];

/** A shipped family that draws the scripts of all these characters. */
function familyWith(characters: readonly string[]): FontFamily | null {
  const scripts = new Set(characters.map((character) => scriptOf([...character][0]!)));
  return (
    FAMILIES.find((family) => [...scripts].every((script) => script !== 'Common' && family.scripts.includes(script))) ??
    null
  );
}
