import { areaTitle, type Area, type Blank } from '../catalog/blank';
import { printedBox, TECHNIQUE_NAMES, type Geometry } from '../geometry/area';
import { boxOfPoints, contains, unitCorners, type Box } from '../geometry/box';
import { apply, scaling, translation, chain, type Matrix } from '../geometry/matrix';
import { placementMatrix, type Placement } from '../geometry/placement';
import { ownEntry, putEntry } from '../own-entry';
import { checkPattern } from '../variants/sku';
import type { AreaDesign, Layer, Pictures, PricePlan, ProductDocument } from './document';
import { matchVariants, type VariantMatch } from './match-variants';
import { storesThere } from './stores-there';

/** What a product becomes on another blank, and what of it does not fit there. */
export interface Transfer {
  readonly document: ProductDocument;
  /** Areas of the first blank and where their designs went; `to` is null where the other blank has no such area. */
  readonly areas: readonly { readonly from: string; readonly to: string | null }[];
  /** How many variants are chosen there. */
  readonly variantCount: number;
  /** What was left behind or is to be looked at, as sentences. */
  readonly notes: readonly string[];
}

/** Height ÷ width of a layer as it lies, for those whose size is known. */
export type AspectOf = (layer: Layer) => number | null;

/**
 * The design, prices and words of a product on another blank. Areas are matched by key, then by name and technique, then by name alone;
 * each design keeps its size where it has room and is scaled to the area where it has none. Values of options are matched by code, then
 * by name. Codes of variants stay behind: a SKU names one good.
 */
export function onOtherBlank(doc: ProductDocument, from: Blank, to: Blank, aspectOf: AspectOf): Transfer {
  const pairs = matchAreas(doc, from, to);
  const variants = matchVariants(doc, from, to);
  const notes: string[] = [];
  const areas: Record<string, AreaDesign> = {};
  for (const { area, target } of pairs) {
    if (!target) {
      notes.push(`${to.name} has no area like ${areaTitle(from, area)}; its design is left out.`);
      continue;
    }
    if (target.technique !== area.technique)
      notes.push(
        `${areaTitle(to, target)} is made by ${TECHNIQUE_NAMES[target.technique]}, not ${TECHNIQUE_NAMES[area.technique]}; look at the colors and thin lines again.`,
      );
    const design = ownEntry(doc.areas, area.key)!;
    const moved = moveDesign(design, {
      from,
      to,
      target,
      aspectOf,
      keepColor: (code) => variants.colors.get(code) ?? null,
    });
    if (moved.scaled) notes.push(`${areaTitle(to, target)} is smaller; its design was made smaller to fit.`);
    putEntry(areas, target.key, moved.design);
  }
  notes.push(...variants.notes);
  const document: ProductDocument = {
    format: 1,
    blankId: to.id,
    areas,
    variants: Object.fromEntries(variants.keys.map((key) => [key, {}])),
    ...storesThere(doc, from, to, variants),
    ...(doc.whenOut ? { whenOut: doc.whenOut } : {}),
    ...(doc.skuPattern !== undefined && checkPattern(doc.skuPattern, to).length === 0
      ? { skuPattern: doc.skuPattern }
      : {}),
    price: pricesThere(doc, from, to, variants, notes),
    ...(doc.bundles ? { bundles: doc.bundles } : {}),
    words: doc.words,
    pictures: {
      base: picturesThere(doc.pictures.base, variants),
      stores: Object.fromEntries(
        Object.entries(doc.pictures.stores).map(([id, set]) => [id, picturesThere(set, variants)]),
      ),
    },
  };
  if (hasShots(doc.pictures)) notes.push('Pictures are made automatically from the shots of the new blank.');
  return {
    document,
    areas: pairs.map(({ area, target }) => ({
      from: areaTitle(from, area),
      to: target ? areaTitle(to, target) : null,
    })),
    variantCount: variants.keys.length,
    notes,
  };
}

/** The areas that have a design, in the blank's order, each with the area of the other blank that it goes to. */
function matchAreas(doc: ProductDocument, from: Blank, to: Blank): { area: Area; target: Area | null }[] {
  const used = from.areas.filter(({ key }) => Object.keys(ownEntry(doc.areas, key)?.layers ?? {}).length > 0);
  const free = new Set(to.areas);
  const found = new Map<string, Area>();
  const same = (a: string, b: string) => a.toLocaleLowerCase('en') === b.toLocaleLowerCase('en');
  const ways: readonly ((area: Area, other: Area) => boolean)[] = [
    (area, other) => other.key === area.key,
    (area, other) => same(other.name, area.name) && other.technique === area.technique,
    (area, other) => same(other.name, area.name),
    // A good with one place to print takes a design with one place, whatever the two are called.
    () => used.length === 1 && to.areas.length === 1,
  ];
  for (const way of ways)
    for (const area of used) {
      const target = found.has(area.key) ? undefined : [...free].find((other) => way(area, other));
      if (!target) continue;
      found.set(area.key, target);
      free.delete(target);
    }
  return used.map((area) => ({ area, target: found.get(area.key) ?? null }));
}

interface Move {
  readonly from: Blank;
  readonly to: Blank;
  readonly target: Area;
  readonly aspectOf: AspectOf;
  /** The code of a color on the other blank, or null. */
  keepColor(code: string): string | null;
}

/** All layers of an area carried by one map, so that they stay as they lie to one another. */
function moveDesign(design: AreaDesign, move: Move): { design: AreaDesign; scaled: boolean } {
  const entries = Object.entries(design.layers);
  const targetId = move.target.geometries[0]!.geometryId;
  const there = ownEntry(move.to.geometries, targetId)!;
  const here = ownEntry(move.from.geometries, entries[0]![1].geometryId) ?? there;
  const { map, scale } = carrier(
    boxOfDesign(design, move.aspectOf),
    here,
    there,
    entries.some(([, { fit }]) => fit === 'fill'),
  );
  const layers: Record<string, Layer> = {};
  for (const [id, layer] of entries) {
    const { versions, ...rest } = layer;
    const kept = Object.entries(versions ?? {}).flatMap(([code, version]) => {
      const color = move.keepColor(code);
      return color === null ? [] : [[color, version] as const];
    });
    putEntry(layers, id, {
      ...rest,
      geometryId: targetId,
      overrides: {},
      placement: carried(layer.placement, map, scale),
      ...(kept.length > 0 ? { versions: Object.fromEntries(kept) } : {}),
    } as Layer);
  }
  return { design: { ...(design.threads ? { threads: design.threads } : {}), layers }, scaled: scale < 0.999 };
}

/** The box of all layers, mm in the area that they lie in. */
function boxOfDesign({ layers }: AreaDesign, aspectOf: AspectOf): Box {
  const corners = Object.values(layers).flatMap((layer) =>
    unitCorners(placementMatrix(layer.placement, aspectOf(layer) ?? 1)),
  );
  return boxOfPoints(corners);
}

/** What carries mm here to mm there: by the anchor at its own size where there is room, else scaled evenly about the middles. */
function carrier(box: Box, here: Geometry, there: Geometry, fill: boolean): { map: Matrix; scale: number } {
  const byAnchor = translation(there.anchor.xMm - here.anchor.xMm, there.anchor.yMm - here.anchor.yMm);
  const moved = boxOfPoints([
    apply(byAnchor, { x: box.left, y: box.top }),
    apply(byAnchor, { x: box.right, y: box.bottom }),
  ]);
  if (!fill && contains(printedBox(there), moved, 0.5)) return { map: byAnchor, scale: 1 };
  const [f, t] = [printedBox(here), printedBox(there)];
  const sx = (t.right - t.left) / (f.right - f.left);
  const sy = (t.bottom - t.top) / (f.bottom - f.top);
  const scale = fill ? Math.max(sx, sy) : Math.min(1, sx, sy);
  return {
    map: chain(
      translation(-here.widthMm / 2, -here.heightMm / 2),
      scaling(scale),
      translation(there.widthMm / 2, there.heightMm / 2),
    ),
    scale,
  };
}

const round1 = (value: number) => Math.round(value * 10) / 10;

function carried(placement: Placement, map: Matrix, scale: number): Placement {
  const { x, y } = apply(map, { x: placement.xMm, y: placement.yMm });
  return { ...placement, xMm: round1(x), yMm: round1(y), widthMm: Math.max(1, round1(placement.widthMm * scale)) };
}

/** Prices as they were; what was set for single variants goes to those that became of them. */
function pricesThere(
  doc: ProductDocument,
  from: Blank,
  to: Blank,
  { keyOf }: VariantMatch,
  notes: string[],
): ProductDocument['price'] {
  const own = <T>(variants: { readonly [key: string]: T }) =>
    Object.fromEntries(
      Object.entries(variants).flatMap(([key, aim]) => {
        const there = keyOf.get(key);
        return there ? [[there, aim] as const] : [];
      }),
    );
  const plan = <P extends Partial<PricePlan>>(before: P): P => ({
    ...before,
    ...(before.variants ? { variants: own(before.variants) } : {}),
    // What is put into the parcel is the partner's own.
    ...(before.insert && from.partner.id !== to.partner.id ? { insert: null } : {}),
  });
  const { base, stores } = doc.price;
  if (base.insert && from.partner.id !== to.partner.id)
    notes.push(`The insert is ${from.partner.name}’s own; choose one of ${to.partner.name} under Price.`);
  if (base.aim.kind === 'retail' || Object.values(base.variants).some(({ kind }) => kind === 'retail'))
    notes.push('Fixed prices stay as they are, though the new blank may cost more or less; look at them again.');
  return {
    ...doc.price,
    base: plan(base),
    stores: Object.fromEntries(Object.entries(stores).map(([id, own]) => [id, plan(own)])),
  };
}

/** Photographs of the seller's own stay; shots belong to their blank. */
function picturesThere(pictures: Pictures, { colors }: VariantMatch): Pictures {
  return Object.fromEntries(
    Object.entries(pictures)
      .filter(([, { shotId }]) => shotId === null)
      .map(([id, picture]) => [
        id,
        { ...picture, color: picture.color === null ? null : (colors.get(picture.color) ?? null) },
      ]),
  );
}

const hasShots = ({ base, stores }: ProductDocument['pictures']): boolean =>
  [base, ...Object.values(stores)].some((set) => Object.values(set).some(({ shotId }) => shotId !== null));
