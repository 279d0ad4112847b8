import { colorOption, geometryIdFor, parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { inOrder } from '../order/order';
import { planSheet, RENDER_VERSION, sheetContent, type ArtworkSource, type SheetPlan } from '../print/plan';
import type { ShotDocument } from '../shot/shot';
import { contentHash } from './canonical';
import { chosenColors, type WantedPicture } from './form';

/** A shot of a blank, as far as choosing pictures needs it. */
export interface ShotAbout {
  readonly id: string;
  readonly document: ShotDocument;
  readonly contentHash: string;
}

/** A picture to be made: shot, fabric color and the sheets in view. */
export interface PicturePlan extends WantedPicture {
  readonly shot: ShotAbout;
  readonly hex: string;
  readonly sheets: readonly SheetPlan[];
}

const PAPER = '#ffffff';

/** Plans the mock-up of one shot on one color; null for a color that the blank does not have. */
export function planPicture(
  doc: ProductDocument,
  blank: Blank,
  shot: ShotAbout,
  color: string | null,
  artworks: ReadonlyMap<string, ArtworkSource>,
): PicturePlan | null {
  const value = colorOption(blank)?.values.find((v) => v.code === color);
  if (color !== null && !value) return null;
  const hex = value?.hex ?? PAPER;
  const sheets = Object.entries(shot.document.areas).flatMap(([areaKey, { variant }]) => {
    const area = blank.areas.find((a) => a.key === areaKey);
    const geometryId = area && geometryIdFor(area, variant);
    const sheet = geometryId && planSheet(doc, blank, areaKey, geometryId, color, artworks);
    return sheet ? [sheet] : [];
  });
  const key = contentHash({
    version: RENDER_VERSION,
    kind: 'mock-up',
    shot: shot.contentHash,
    hex,
    sheets: sheets.map((sheet) => ({ area: sheet.areaKey, ...sheetContent(sheet) })),
  });
  return { key, shotId: shot.id, color, alt: altText(blank, shot, value?.name ?? null), shot, hex, sheets };
}

/** Alternative text from facts: good, color, angle. */
const altText = (blank: Blank, shot: ShotAbout, colorName: string | null): string =>
  [blank.name, colorName ? `in ${colorName}` : null, `– ${shot.document.name.toLocaleLowerCase('en')}`]
    .filter(Boolean)
    .join(' ');

/** Whether a shot shows one of the chosen variants' shapes: a poster of 3:4 is not shown for a product that has only A sizes. */
function showsChosenShape(doc: ProductDocument, blank: Blank, shot: ShotAbout): boolean {
  const chosen = Object.keys(doc.variants).map(parseVariantKey);
  return Object.entries(shot.document.areas).some(([areaKey, { variant }]) => {
    const area = blank.areas.find((a) => a.key === areaKey);
    if (!area) return false;
    const shape = aspectOf(blank, geometryIdFor(area, variant));
    return chosen.some((values: OptionValues) => Math.abs(aspectOf(blank, geometryIdFor(area, values)) - shape) < 0.02);
  });
}

function aspectOf(blank: Blank, geometryId: string | null): number {
  const g = geometryId ? blank.geometries[geometryId] : undefined;
  return g ? g.widthMm / g.heightMm : Number.NaN;
}

/** Shots that show what is printed and chosen, the blank's own order. */
export function usefulShots(doc: ProductDocument, blank: Blank, shots: readonly ShotAbout[]): ShotAbout[] {
  const printed = (shot: ShotAbout) =>
    Object.keys(shot.document.areas).some((key) =>
      Object.values(doc.areas[key]?.layers ?? {}).some((layer) => !layer.hidden),
    );
  return shots.filter((shot) => showsChosenShape(doc, blank, shot) && printed(shot));
}

/**
 * The pictures of a product for a store: those that the seller chose, else the set that follows by itself – the first shot once for each
 * color, then each further shot on the first color, up to `most`.
 */
export function planPictures(
  doc: ProductDocument,
  blank: Blank,
  shots: readonly ShotAbout[],
  artworks: ReadonlyMap<string, ArtworkSource>,
  storeId: string | null,
  most: number,
): PicturePlan[] {
  const own = storeId ? doc.pictures.stores[storeId] : undefined;
  const chosen = inOrder(own && Object.keys(own).length > 0 ? own : doc.pictures.base);
  const wanted: [ShotAbout, string | null][] = [];
  if (chosen.length > 0) {
    for (const [, picture] of chosen) {
      const shot = shots.find((s) => s.id === picture.shotId);
      if (shot) wanted.push([shot, picture.color]);
    }
  } else {
    const useful = usefulShots(doc, blank, shots);
    const colors = chosenColors(doc, blank);
    for (const color of colors) if (useful[0]) wanted.push([useful[0], color]);
    for (const shot of useful.slice(1)) if (colors.length > 0) wanted.push([shot, colors[0]!]);
  }
  return wanted.slice(0, most).flatMap(([shot, color]) => planPicture(doc, blank, shot, color, artworks) ?? []);
}
