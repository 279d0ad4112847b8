import type { Blank } from '@/core/catalog/blank';
import { TypicaError } from '@/core/errors';
import { artworkIdsOf, companionIdsOf, photographIdsOf, type ProductDocument } from '@/core/document/document';
import { findArtworks } from '../artwork/artwork';
import type { Database } from '../db/pool';
import { productsById, type Product } from './products';
import { ownEntry } from '@/core/own-entry';

const unknown = (path: string, says: string) =>
  new TypicaError('invalid', 'document-invalid', `The product would be invalid: ${path} ${says}.`, {
    faults: [{ path, says }],
  });

/** Everything that a document names must exist: areas, geometries and variants on its blank, artwork and stores in its workspace. */
export async function checkReferences(
  db: Database,
  product: Product,
  document: ProductDocument,
  blank: Blank,
): Promise<void> {
  if (document.blankId !== product.blankId)
    throw unknown('/blankId', 'cannot be changed; make a product on the other blank');
  if (document.price.currency !== product.document.price.currency)
    throw unknown('/price/currency', 'cannot be changed');
  const areaKeys = new Set(blank.areas.map((area) => area.key));
  const variantKeys = new Set(blank.variants.map((variant) => variant.key));
  const artworkIds = artworkIdsOf(document.areas);
  for (const [areaKey, area] of Object.entries(document.areas)) {
    if (!areaKeys.has(areaKey)) throw unknown(`/areas/${areaKey}`, `is no area of ${blank.name}`);
    for (const [layerId, layer] of Object.entries(area.layers)) {
      if (!ownEntry(blank.geometries, layer.geometryId))
        throw unknown(`/areas/${areaKey}/layers/${layerId}/geometryId`, `is no geometry of ${blank.name}`);
    }
  }
  for (const key of [...Object.keys(document.variants), ...Object.keys(document.price.base.variants)]) {
    // A variant that the partner no longer has may stay until the seller takes it out.
    if (!variantKeys.has(key) && !Object.hasOwn(product.document.variants, key))
      throw unknown(`/variants/${key}`, `is no variant of ${blank.name}`);
  }
  const artworks = await findArtworks(db, product.workspaceId, artworkIds);
  for (const id of artworkIds)
    if (artworks.get(id)?.state !== 'ready')
      throw unknown('/areas', `name the artwork ${id}, which is not ready in this workspace`);
  const photographIds = photographIdsOf(document.pictures);
  const photographs = await findArtworks(db, product.workspaceId, photographIds);
  for (const id of photographIds) {
    const photograph = photographs.get(id);
    if (photograph?.state !== 'ready' || photograph.purpose !== 'photograph')
      throw unknown('/pictures', `name the photograph ${id}, which is not ready in this workspace`);
  }
  await checkShots(db, product, document);
  await checkCompanions(db, product, document);
  const storeIds = [
    ...new Set(
      [
        document.price.stores,
        document.words.stores,
        document.pictures.stores,
        document.leftOut ?? {},
        document.split ?? {},
        document.shades ?? {},
        ...Object.values(document.bundles?.entries ?? {}).map(({ stores = {} }) => stores),
      ].flatMap((stores) => Object.keys(stores)),
    ),
  ];
  if (storeIds.length > 0) {
    const stores = await db.rows<{ id: string }>(
      `SELECT id FROM store WHERE workspace_id = ? AND id IN (${storeIds.map(() => '?').join(',')})`,
      [product.workspaceId, ...storeIds],
    );
    const missing = storeIds.find((id) => !stores.some((store) => store.id === id));
    if (missing) throw unknown('/words', `name the store ${missing}, which is not in this workspace`);
  }
}

/** Products of bundles must be others of this workspace. One that was put away meanwhile may stay until the seller takes it out. */
async function checkCompanions(db: Database, product: Product, document: ProductDocument): Promise<void> {
  const ids = companionIdsOf(document);
  if (ids.includes(product.id)) throw unknown('/bundles', 'name the product itself; more of it is a larger order');
  const before = new Set(companionIdsOf(product.document));
  const there = await productsById(db, product.workspaceId, ids);
  const missing = ids.find((id) => !before.has(id) && !there.some((one) => one.id === id));
  if (missing) throw unknown('/bundles', `name the product ${missing}, which is not in this workspace`);
}

/** Shots that pictures name must be of this blank: the catalog's, or the workspace's own. One that was exchanged meanwhile may stay. */
async function checkShots(db: Database, product: Product, document: ProductDocument): Promise<void> {
  const idsOf = ({ pictures }: ProductDocument) =>
    new Set(
      [pictures.base, ...Object.values(pictures.stores)].flatMap((set) =>
        Object.values(set).flatMap(({ shotId }) => (shotId === null ? [] : [shotId])),
      ),
    );
  const before = idsOf(product.document);
  const ids = [...idsOf(document)].filter((id) => !before.has(id));
  if (ids.length === 0) return;
  const rows = await db.rows<{ id: string }>(
    `SELECT id FROM shot WHERE blank_id = ? AND (workspace_id IS NULL OR workspace_id = ?) AND id IN (${ids.map(() => '?').join(',')})`,
    [product.blankId, product.workspaceId, ...ids],
  );
  const missing = ids.find((id) => !rows.some((row) => row.id === id));
  if (missing) throw unknown('/pictures', `name the shot ${missing}, which this blank does not have`);
}
