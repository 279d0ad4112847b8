import { areaTitle, type Area, type Blank } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { differenceOf, inksOn } from './contrast';
import type { Ink } from './ink';
import type { ArtworkSize, Finding } from './finding';
import { MIN_COLOR, ONE_THREAD, THRESHOLDS } from './thresholds';
import { ownEntry } from '../own-entry';

/** How many colors a design needs where a technique has only so many: told once for an area, since the threads are its own. */
export function lookAtThreads(
  doc: ProductDocument,
  blank: Blank,
  area: Area,
  geometryIds: readonly string[],
  artworks: { readonly [id: string]: ArtworkSize | undefined },
  findings: Finding[],
): void {
  const most = THRESHOLDS[ownEntry(blank.geometries, geometryIds[0]!)!.technique].mostColors;
  const layers = Object.entries(ownEntry(doc.areas, area.key)?.layers ?? {}).filter(([, layer]) => !layer.hidden);
  if (most === null || layers.length === 0) return;
  const inks = layers.flatMap(([, layer]) =>
    inksOn(layer, '', (id) => ownEntry(artworks, id)?.threadColors ?? ownEntry(artworks, id)?.mainColors ?? []),
  );
  const needed: Ink[] = [];
  for (const ink of inks)
    if (ink.share >= MIN_COLOR && needed.every((one) => differenceOf(one.hex, ink.hex) >= ONE_THREAD)) needed.push(ink);
  if (needed.length <= most) return;
  const where = areaTitle(blank, area).toLocaleLowerCase('en');
  findings.push({
    id: `threads:${area.key}`,
    severity: 'warn',
    areaKey: area.key,
    layerId: layers[0]![0],
    says: `The ${where} has about ${needed.length} colors and is sewn in ${most} threads at most: the nearest are sewn as one. Look at its threads.`,
  });
}
