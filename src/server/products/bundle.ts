import type { Blank, PriceList } from '@/core/catalog/blank';
import { artworkIdsOf, companionIdsOf, photographIdsOf } from '@/core/document/document';
import type { PhotographSource, PictureWorld } from '@/core/listing/pictures';
import { TypicaError } from '@/core/errors';
import type { ArtworkSource } from '@/core/print/plan';
import type { Companions } from '@/core/pricing/bundle';
import type { ExchangeRate } from '@/core/pricing/rates';
import { RateTable } from '@/core/pricing/rates';
import { inScope, type ScopedProduct } from '@/core/pricing/sale-scope';
import { findArtworks, type ArtworkRow } from '../artwork/artwork';
import { loadOffers } from '../catalog/kept-offers';
import { loadShots, type StoredShot } from '../catalog/blanks';
import type { Context } from '../context';
import { floorAcceptances, type FloorAcceptance } from '../listings/floor-acceptances';
import { loadMoney, type WorkspaceMoney } from '../pricing/settings';
import { salesNow, type SaleRow } from '../sales/sales';
import { sentSkusOf } from './sent-skus';
import type { SentSkus } from '@/core/variants/sku';
import { loadExchangeRates } from '../rates/rates';
import { findProduct, productsById, type Product } from './products';

/** A product with all that it is drawn, checked and printed from. */
export interface ProductDesign {
  readonly product: Product;
  readonly blank: Blank;
  readonly shots: readonly StoredShot[];
  readonly artworks: ReadonlyMap<string, ArtworkRow>;
  readonly sources: ReadonlyMap<string, ArtworkSource>;
  /** Photographs that its pictures name. */
  readonly photographs: ReadonlyMap<string, PhotographSource>;
}

/** A product with all that rendering, pricing and listing it needs. */
export interface ProductBundle extends ProductDesign, WorkspaceMoney {
  readonly list: PriceList;
  readonly exchangeRates: readonly ExchangeRate[];
  readonly rates: RateTable;
  /** Who took selling below the floor upon themselves, store by store. */
  readonly floorAccepted: readonly FloorAcceptance[];
  /** SKUs that shops have seen. */
  readonly sentSkus: SentSkus;
  /** Sales that it is in just now. */
  readonly sales: readonly SaleRow[];
  /** Products that are sold together with it. */
  readonly companions: Companions;
}

/** What planning the pictures of a bundle's product looks at. */
export const pictureWorld = ({ blank, shots, sources, photographs }: ProductDesign): PictureWorld => ({
  blank,
  shots,
  artworks: sources,
  photographs,
});

/** What of a product decides whether a sale is for it. */
export const scopedProduct = ({
  product,
  blank,
  artworks,
}: Pick<ProductBundle, 'product' | 'blank' | 'artworks'>): ScopedProduct => ({
  id: product.id,
  kind: blank.kind,
  tags: artworkIdsOf(product.document.areas).flatMap((id) => artworks.get(id)?.tags ?? []),
});

/** An artwork as rendering sees it, or null while it is not ready. */
export function sourceOf(artwork: ArtworkRow): ArtworkSource | null {
  if (artwork.state !== 'ready' || !artwork.facts || !artwork.sourceSha256) return null;
  const { vector, widthPx, heightPx } = artwork.facts;
  return { id: artwork.id, sha256: artwork.sourceSha256, vector, widthPx, heightPx };
}

/** What designs of products are made of, read for all of them at once; blanks of products that are sold with them can be read along. */
async function readDesigns(
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
  along: readonly string[] = [],
) {
  const blankIds = [...new Set([...products.map(({ blankId }) => blankId), ...along])];
  const artworkIds = [
    ...new Set(
      products.flatMap(({ document }) => [...artworkIdsOf(document.areas), ...photographIdsOf(document.pictures)]),
    ),
  ];
  const [offers, shots, artworks] = await Promise.all([
    loadOffers(ctx, workspaceId, blankIds),
    loadShots(ctx, blankIds, workspaceId),
    findArtworks(ctx.db, workspaceId, artworkIds),
  ]);
  const sources = new Map(
    [...artworks].flatMap(([id, artwork]) => {
      const source = sourceOf(artwork);
      return source ? [[id, source] as const] : [];
    }),
  );
  const photographs = new Map(
    [...sources].flatMap(([id, source]) => {
      const own = artworks.get(id)!;
      return own.purpose === 'photograph' ? [[id, { ...source, name: own.name }] as const] : [];
    }),
  );
  const designs = products.map((product): ProductDesign => {
    const { blank } = offers.find((offer) => offer.blank.id === product.blankId)!;
    return {
      product,
      blank,
      shots: shots.filter((shot) => shot.blankId === blank.id),
      artworks,
      sources,
      photographs,
    };
  });
  return { offers, designs };
}

/** Products as they are drawn, checked and printed: what they cost is not read, and need not be known. */
export const loadDesigns = async (
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
): Promise<ProductDesign[]> => (await readDesigns(ctx, workspaceId, products)).designs;

export async function loadDesign(ctx: Context, workspaceId: string, productId: string): Promise<ProductDesign> {
  const [design] = await loadDesigns(ctx, workspaceId, [await findProduct(ctx, workspaceId, productId)]);
  return design!;
}

/** Bundles of many products in a fixed number of queries. Throws `price-list-missing`. */
export async function loadBundles(
  ctx: Context,
  workspaceId: string,
  products: readonly Product[],
): Promise<ProductBundle[]> {
  if (products.length === 0) return [];
  const productIds = products.map((product) => product.id);
  const companionIds = [...new Set(products.flatMap(({ document }) => companionIdsOf(document)))];
  const sharers = await productsById(ctx.db, workspaceId, companionIds);
  const along = sharers.map(({ blankId }) => blankId);
  const [{ offers, designs }, exchangeRates, money, sent, floors, sales] = await Promise.all([
    readDesigns(ctx, workspaceId, products, along),
    loadExchangeRates(ctx, workspaceId),
    loadMoney(ctx, workspaceId),
    sentSkusOf(ctx.db, productIds),
    floorAcceptances(ctx.db, productIds),
    salesNow(ctx, workspaceId),
  ]);
  const rates = new RateTable(exchangeRates, money.settings.rateMarginPpm);
  const listOf = new Map(offers.map(({ blank, list }) => [blank.id, list]));
  const companions = new Map(
    sharers.flatMap(({ id, title, document: doc, blankId }) => {
      const offer = offers.find(({ blank }) => blank.id === blankId);
      return offer?.list ? [[id, { title, doc, blank: offer.blank, list: offer.list }] as const] : [];
    }),
  );
  return designs.map((design) => ({
    ...design,
    list: listOf.get(design.blank.id) ?? refuseWithout(design.blank),
    exchangeRates,
    rates,
    ...money,
    sentSkus: sent.get(design.product.id) ?? {},
    floorAccepted: floors.get(design.product.id) ?? [],
    companions,
    sales: sales.filter(({ scope }) => inScope(scope, scopedProduct(design))),
  }));
}

function refuseWithout({ name, partner }: Blank): never {
  throw new TypicaError('invalid', 'price-list-missing', `${partner.name} has no price list in force for ${name}.`);
}

export async function loadBundle(ctx: Context, workspaceId: string, productId: string): Promise<ProductBundle> {
  const [bundle] = await loadBundles(ctx, workspaceId, [await findProduct(ctx, workspaceId, productId)]);
  return bundle!;
}
