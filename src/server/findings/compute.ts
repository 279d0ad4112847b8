import { LRUCache } from 'lru-cache';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import type { ArtworkSize, Finding, SetLettering } from '@/core/findings/finding';
import { findFindings } from '@/core/findings/findings';
import type { Lettering } from '@/core/lettering/text';
import { setLettering } from '../lettering/fonts';

/** What the checks look at. */
export interface CheckedProduct {
  readonly document: ProductDocument;
  readonly blank: Blank;
  /** The artworks on the design, by id. */
  readonly artworks: readonly (readonly [id: string, size: ArtworkSize | undefined])[];
}

/** Texts that were set lately: a product is looked at again and again while it is made. */
const set = new LRUCache<string, SetLettering>({ max: 500 });

async function setOnce(lettering: Lettering): Promise<SetLettering> {
  const key = JSON.stringify(lettering);
  const have = set.get(key);
  if (have) return have;
  const made = await setLettering(lettering);
  set.set(key, made);
  return made;
}

/** What the checks say of a design. Setting its texts can take seconds: it is called in a process of its own. */
export async function computeFindings({ document, blank, artworks }: CheckedProduct): Promise<Finding[]> {
  const letterings: [string, SetLettering][] = [];
  for (const { layers } of Object.values(document.areas))
    for (const [layerId, layer] of Object.entries(layers))
      if (layer.kind === 'text' && !layer.hidden) letterings.push([layerId, await setOnce(layer.lettering)]);
  return findFindings(document, blank, Object.fromEntries(artworks), Object.fromEntries(letterings));
}
