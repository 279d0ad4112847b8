import { areaTitle, colorOption, type Area, type Blank } from '../catalog/blank';
import { layerTitle, type Layer, type ProductDocument } from '../document/document';
import type { Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { layerMatrix } from '../geometry/fit';
import { chosenColors, chosenGeometryIds } from '../document/chosen';
import { inOrder } from '../order-key';
import { layerAspect } from '../print/plan';
import { groundsOf } from './contrast';
import type { Ink } from './ink';
import { lookAtLetters } from './letters';
import { lookAtPicture, lookForFaded } from './picture';
import { isUnprinted, outsideBy, overMargin, overTrim, stretchedBy } from './place';
import type { Laid } from './moves';
import type { PlacedLayer } from './placed';
import { lookAtSeen, lookAtStrips, type Printed } from './seen';
import { lookAtSharpness } from './sharpness';
import { lookAtThreads } from './thread-count';
import type { Add, ArtworkSize, Finding, SetLettering, Severity } from './finding';
import { lookAtWords } from './words';
import { ownEntry } from '../own-entry';

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
    keysIn: (color: string) => chosenIn(doc, blank, color),
  };
  lookAtStrips(printed, view);
  lookAtSeen(printed, view);
  lookAtThreads(doc, blank, area, inUse, artworks, findings);
}

/** Keys of the chosen variants in one color. */
function chosenIn(doc: ProductDocument, blank: Blank, color: string): string[] {
  const option = colorOption(blank)?.code;
  return blank.variants.flatMap(({ key, values }) =>
    option !== undefined && ownEntry(values, option) === color && ownEntry(doc.variants, key) ? [key] : [],
  );
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
  // Sentences call a text by what it says.
  return {
    id: layerId,
    layer: { ...layer, name: layerTitle(layer) },
    placed: layOut(layer),
    visible,
    mini: size?.mini,
    layOut,
    add,
  };
}

/** What is said of one layer alone; false where nothing of it is printed, which is all that is said then. */
function lookAtLayer(laid: Printed, where: string, { blank, sizes, colors, letterings }: Looking): boolean {
  const { id, layer, placed, add } = laid;
  if (isUnprinted(laid)) {
    const says = `${layer.name} lies outside the ${where}: nothing of it will print, and the area is still charged for.`;
    add('empty', 'warn', says, { kind: 'hide' });
    return false;
  }
  if (layer.kind === 'artwork') {
    lookAtSharpness(layer, sizes.get(layer.artworkId)!, placed, where, add);
    lookAtPicture(layer, sizes, { blank, colors, placed }, add);
  }
  if (layer.kind === 'text') lookAtLetters(layer, ownEntry(letterings, id), placed, where, add);
  lookForFaded(layer, placed, add);
  const isTold = lookAtPlace(laid, where, add);
  if (layer.kind === 'artwork' && !isTold) lookAtWords(laid, sizes.get(layer.artworkId)!.words ?? [], where, add);
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

/** Where the letters of a text lie in its box, as shares of it: they can be smaller than the box, or run out of it on an arc. */
function lettersIn(layer: Layer, set: SetLettering | undefined): Box | null {
  if (layer.kind !== 'text' || !set?.bounds) return null;
  const { boxWidthMm, boxHeightMm } = layer.lettering;
  const { left, top, right, bottom } = set.bounds;
  return { left: left / boxWidthMm, top: top / boxHeightMm, right: right / boxWidthMm, bottom: bottom / boxHeightMm };
}

const shapeName = ({ widthMm, heightMm }: Geometry): string => `${widthMm} × ${heightMm} mm`;

/** Where a layer comes too near to an edge, or beyond it; whether there is something to tell. */
function lookAtPlace(laid: Laid, where: string, add: Add): boolean {
  const { name } = laid.layer;
  const outside = outsideBy(laid);
  if (outside)
    add(
      'outside',
      'warn',
      `${name} reaches ${outside.overMm.toFixed(1)} mm outside the ${where}; that part will not print.`,
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
  return Boolean(outside || cut || over);
}

/** What an artwork prints, without a box around it: that is told as a box, and nobody misses it where it is not seen. */
const inksOfArtwork = (size: ArtworkSize | undefined): readonly Ink[] =>
  size?.unboxed?.mainColors ?? size?.mainColors ?? [];
