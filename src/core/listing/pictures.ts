import { colorOption, geometryIdFor, parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { asSoldIn } from '../document/offered';
import { inOrder } from '../order-key';
import { planSheet, RENDER_VERSION, sheetContent, type ArtworkSource, type SheetPlan } from '../print/plan';
import type { FabricColor } from '../shot/fabric';
import type { ShotDocument } from '../shot/shot';
import { contentHash } from '../canonical/canonical';
import { chosenColors } from '../document/chosen';
import { type WantedPicture } from './form';
import { ownEntry } from '../own-entry';

/** Raised when the pixels that come out of the same shot and design change: old mock-ups are then made anew. */
const MOCKUP_VERSION = 3;

/** A shot of a blank, as far as planning pictures needs it. */
export interface StoredShotAbout extends ShotAbout {
  readonly document: ShotDocument;
  readonly contentHash: string;
}

/** What choosing looks at. */
export interface ShotAbout {
  readonly id: string;
  readonly document: ShotSubject;
}

/** What a shot shows. */
export interface ShotSubject extends Pick<ShotDocument, 'angle' | 'name'> {
  readonly chosenOnly?: boolean;
  readonly areas: SeenAreas;
}

/** The areas that a shot shows, each with the variant in whose geometry it is measured. */
export type SeenAreas = { readonly [areaKey: string]: { readonly variant: OptionValues } };

/** A mock-up to be made: shot, fabric color and the sheets in view. */
export interface MockupPlan extends WantedPicture {
  readonly shot: StoredShotAbout;
  readonly fabric: FabricColor;
  readonly material: string;
  readonly sheets: readonly SheetPlan[];
}

/** A picture of the seller's own: a photograph that was taken in. */
export interface OwnPicturePlan extends WantedPicture {
  readonly shot: null;
  readonly photograph: PhotographSource;
}

export type PicturePlan = MockupPlan | OwnPicturePlan;

/** Size of a picture as it is here, px. */
export function pictureSize(plan: PicturePlan): { readonly widthPx: number; readonly heightPx: number } {
  const { widthPx, heightPx } = plan.shot ? plan.shot.document : plan.photograph;
  return { widthPx, heightPx };
}

export interface PhotographSource {
  readonly id: string;
  readonly name: string;
  readonly sha256: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** What planning pictures looks at beside the document. */
export interface PictureWorld {
  readonly blank: Blank;
  readonly shots: readonly StoredShotAbout[];
  readonly artworks: ReadonlyMap<string, ArtworkSource>;
  readonly photographs: ReadonlyMap<string, PhotographSource>;
}

const PAPER = '#ffffff';

/** The color of a blank as fabric takes it; white for a blank without colors; null for a color that it does not have. */
export function fabricOf(blank: Blank, color: string | null): (FabricColor & { readonly name: string | null }) | null {
  const value = colorOption(blank)?.values.find((v) => v.code === color);
  if (color !== null && !value) return null;
  // A color without a swatch is shown as paper: there is nothing to tell how it looks.
  return { hex: value?.hex ?? PAPER, heather: value?.heather === true, name: value?.name ?? null };
}

/** The sheets that a shot shows of a design on one color. */
export const sheetsInView = (
  doc: Pick<ProductDocument, 'areas'>,
  blank: Blank,
  shot: { readonly areas: SeenAreas },
  color: string | null,
  artworks: ReadonlyMap<string, ArtworkSource>,
): SheetPlan[] =>
  Object.entries(shot.areas).flatMap(([areaKey, { variant }]) => {
    const area = blank.areas.find((a) => a.key === areaKey);
    const geometryId = area && geometryIdFor(area, variant);
    const sheet = geometryId && planSheet(doc, blank, areaKey, geometryId, color, artworks);
    return sheet ? [sheet] : [];
  });

/** Plans the mock-up of one shot on one color; null for a color that the blank does not have. */
export function planMockup(
  doc: ProductDocument,
  blank: Blank,
  shot: StoredShotAbout,
  color: string | null,
  artworks: ReadonlyMap<string, ArtworkSource>,
): MockupPlan | null {
  const fabric = fabricOf(blank, color);
  if (!fabric) return null;
  const sheets = sheetsInView(doc, blank, shot.document, color, artworks);
  const { hex, heather } = fabric;
  const key = contentHash({
    version: [RENDER_VERSION, MOCKUP_VERSION],
    kind: 'mock-up',
    shot: shot.contentHash,
    hex,
    heather,
    material: blank.material,
    sheets: sheets.map((sheet) => ({ area: sheet.areaKey, ...sheetContent(sheet) })),
  });
  return {
    id: `${shot.id}/${color ?? ''}`,
    key,
    shotId: shot.id,
    color,
    alt: altText(doc, blank, shot, fabric.name),
    main: false,
    shot,
    fabric: { hex, heather },
    material: blank.material,
    sheets,
  };
}

/** Longest piece of a text that is named in an alternative text. */
const QUOTED = 40;

/** Alternative text from facts: good, color, what is on it, angle. */
export function altText(
  doc: ProductDocument,
  blank: Blank,
  shot: Pick<ShotAbout, 'document'>,
  colorName: string | null,
): string {
  const layers = Object.keys(shot.document.areas).flatMap((key) =>
    inOrder(ownEntry(doc.areas, key)?.layers ?? {})
      .map(([, layer]) => layer)
      .filter((layer) => !layer.hidden),
  );
  const names = new Set(
    layers.flatMap((layer) => {
      if (layer.kind === 'artwork') return [`“${layer.name}”`];
      if (layer.kind !== 'text') return [];
      const words = layer.lettering.text.replace(/\s+/g, ' ').trim();
      return words ? [`the words “${words.length > QUOTED ? `${words.slice(0, QUOTED).trim()}…` : words}”`] : [];
    }),
  );
  const what = [...names].slice(0, 2).join(' and ');
  const good = `${blank.name}${colorName ? ` in ${colorName}` : ''}${what ? ` with ${what}` : ''}`;
  return `${good}, ${shot.document.name.toLocaleLowerCase('en')}`;
}

/** Shapes whose height ÷ width differ by no more are shown by one shot: sizes of a shirt, not a poster's formats. */
const SAME_SHAPE = 0.035;

/** Whether a shot shows one of the chosen variants' shapes: a poster of 3:4 is not shown for a product that has only A sizes. */
const showsChosenShape = (doc: ProductDocument, blank: Blank, shot: ShotAbout): boolean =>
  showsShape(blank, shot.document, Object.keys(doc.variants).map(parseVariantKey));

/** Whether a shot shows the shape of an area as one of these variants has it. */
export const showsShape = (
  blank: Blank,
  shot: { readonly areas: SeenAreas },
  variants: readonly OptionValues[],
): boolean =>
  Object.entries(shot.areas).some(([areaKey, { variant }]) => {
    const area = blank.areas.find((a) => a.key === areaKey);
    if (!area) return false;
    const shape = aspectOf(blank, geometryIdFor(area, variant));
    return variants.some((values) => Math.abs(aspectOf(blank, geometryIdFor(area, values)) - shape) < SAME_SHAPE);
  });

function aspectOf(blank: Blank, geometryId: string | null): number {
  const g = geometryId ? ownEntry(blank.geometries, geometryId) : undefined;
  return g ? g.widthMm / g.heightMm : Number.NaN;
}

/** Shots that show what is printed and chosen, the blank's own order. */
export function usefulShots<S extends ShotAbout>(doc: ProductDocument, blank: Blank, shots: readonly S[]): S[] {
  const printed = (shot: S) =>
    Object.keys(shot.document.areas).some((key) =>
      Object.values(ownEntry(doc.areas, key)?.layers ?? {}).some((layer) => !layer.hidden),
    );
  return shots.filter((shot) => showsChosenShape(doc, blank, shot) && printed(shot));
}

/** Pictures of automatic set, at most. */
export const DEFAULT_PICTURES = 20;
/** Pictures of a product at most. */
export const MAX_PICTURES = 60;

/** Angle of a shot from near. */
export const CLOSE_UP = 'close-up';
/** Angle of a shot that is only a step of turning the good. */
export const TURNED = 'turned';

/**
 * The set that follows by itself: the main picture first, the same view once for each color, each further angle on the first color, one
 * close-up last. Where there is no room for all, colors give way to angles.
 */
export function defaultSet<S extends ShotAbout>(
  doc: ProductDocument,
  blank: Blank,
  shots: readonly S[],
  most: number,
): { shot: S; color: string | null }[] {
  const useful = usefulShots(doc, blank, shots).filter(({ document }) => !document.chosenOnly);
  const views = useful.filter(({ document }) => document.angle !== CLOSE_UP && document.angle !== TURNED);
  const near = useful.find(({ document }) => document.angle === CLOSE_UP);
  const [first, ...further] = views;
  const colors = chosenColors(doc, blank);
  if (!first || colors.length === 0) return near && colors.length > 0 ? [{ shot: near, color: colors[0]! }] : [];
  const others = [...further, ...(near ? [near] : [])].slice(0, Math.max(0, most - 1));
  const byColor = colors.slice(0, Math.max(1, most - others.length));
  return [
    ...byColor.map((color) => ({ shot: first, color })),
    ...others.map((shot) => ({ shot, color: colors[0]! })),
  ].slice(0, most);
}

/** The pictures of a product for a store: those that the seller chose, else automatic set; `most` at most. */
export function planPictures(
  product: ProductDocument,
  { blank, shots, artworks, photographs }: PictureWorld,
  storeId: string | null,
  most: number,
): PicturePlan[] {
  const doc = asSoldIn(product, storeId);
  const own = storeId ? ownEntry(doc.pictures.stores, storeId) : undefined;
  const chosen = inOrder(own && Object.keys(own).length > 0 ? own : doc.pictures.base);
  if (chosen.length === 0)
    return defaultSet(doc, blank, shots, most).flatMap(
      ({ shot, color }) => planMockup(doc, blank, shot, color, artworks) ?? [],
    );
  return chosen
    .flatMap(([id, picture]): PicturePlan[] => {
      const alt = picture.alt?.trim();
      const over = { id, ...(alt ? { alt } : {}), main: picture.main === true };
      if (picture.shotId === null) {
        const photograph = photographs.get(picture.imageId ?? '');
        if (!photograph) return [];
        const plain = fabricOf(blank, picture.color)?.name;
        const says = `${blank.name}${plain ? ` in ${plain}` : ''}, ${photograph.name}`;
        const key = contentHash({ kind: 'own-picture', sha256: photograph.sha256 });
        return [{ key, shotId: null, color: picture.color, alt: says, shot: null, photograph, ...over }];
      }
      const shot = shots.find((s) => s.id === picture.shotId);
      const plan = shot && planMockup(doc, blank, shot, picture.color, artworks);
      return plan ? [{ ...plan, ...over }] : [];
    })
    .slice(0, most);
}
