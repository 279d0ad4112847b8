import type { Blank } from '@/core/catalog/blank';
import { layerTitle, type ProductDocument } from '@/core/document/document';
import { groundsOf, poorContrast } from '@/core/findings/contrast';
import type { Ink } from '@/core/findings/ink';
import { ownEntry } from '@/core/own-entry';
import type { BenchShot } from '../load';

/** Names of the layers in a shot that would hardly be seen on a color of the blank, chosen or not. */
export function hardlySeenOn(
  doc: Pick<ProductDocument, 'areas'>,
  blank: Blank,
  shot: Pick<BenchShot, 'areas'>,
  color: string,
  mainColors: (artworkId: string) => readonly Ink[],
): string[] {
  const grounds = groundsOf(blank, [color]);
  return Object.keys(shot.areas).flatMap((key) => {
    const technique = blank.areas.find((area) => area.key === key)?.technique ?? 'giclee';
    return Object.values(ownEntry(doc.areas, key)?.layers ?? {}).flatMap((layer) =>
      !layer.hidden && poorContrast(layer, grounds, technique, mainColors) ? [layerTitle(layer)] : [],
    );
  });
}
