import type { Blank, PriceList } from '@/core/catalog/blank';
import type { SizesIn } from '@/core/catalog/size-guide';
import type { ProductDocument } from '@/core/document/document';
import type { ChosenShades } from '@/core/listing/shades';
import type { ExchangeRate } from '@/core/pricing/rates';
import type { MoneySettings } from '@/core/pricing/settings';
import type { SentSkus } from '@/core/variants/sku';
import type { Outlet } from '@/core/pricing/outlet';
import type { ChannelDemands } from '@/core/rules/demands';
import { listArtworks, publicArtwork, type Artwork } from '@/server/artwork/artwork';
import type { Context } from '@/server/context';
import { listingsOf, listingView, prepareListed, type ListingView } from '@/server/listings/listings';
import { listingPlaces } from '@/server/listings/place';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { shotView, type ShotView } from '@/server/shots/about';
import { channelOf, demandsOf, listStores, outletOf, sendsAs, type SendsAs } from '@/server/stores/stores';
import { shortName } from './store-name';

export interface BenchStore extends Outlet {
  readonly id: string;
  readonly channelName: string;
  /** What it is called where there is little room. */
  readonly shortName: string;
  readonly shopName: string;
  readonly demands: ChannelDemands;
  /** Its shop's names for colors, for all products. */
  readonly shades?: ChosenShades;
  readonly sizesIn?: SizesIn;
  /** Of its words, BCP 47; absent: nobody said. */
  readonly language?: string;
  /** How what is new there is sent where nobody says otherwise. */
  readonly sendsAs: SendsAs;
}

export type BenchShot = ShotView;
export type { ProductPicture as PictureView } from '@/server/pictures/product-pictures';

export interface BenchData {
  readonly product: { readonly id: string; readonly revision: number; readonly document: ProductDocument };
  readonly blank: Blank;
  readonly list: PriceList;
  readonly exchangeRates: readonly ExchangeRate[];
  readonly settings: MoneySettings;
  /** SKUs that shops have seen. */
  readonly sentSkus: SentSkus;
  readonly shots: readonly BenchShot[];
  readonly artworks: readonly Artwork[];
  readonly stores: readonly BenchStore[];
  readonly listings: readonly ListingView[];
  /** Who edits: what is kept in the browser is theirs alone. */
  readonly personId: string;
  readonly personName: string;
  readonly home: { readonly currency: string; readonly country: string };
}

/** Everything that the bench shows of one product. */
export async function loadBench(ctx: Context, actor: Actor, productId: string): Promise<BenchData> {
  const [bundle, artworks, stores] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, productId),
    listArtworks(ctx, actor.workspaceId),
    listStores(ctx, actor.workspaceId),
  ]);
  const rows = await listingsOf(ctx.db, actor.workspaceId, [productId]);
  const { product, blank, list, exchangeRates, settings, sentSkus, shots } = bundle;
  const named = stores.map(({ name, channel }) => ({ name, channelName: channelOf(ctx, channel).about.name }));
  return {
    product: { id: product.id, revision: product.revision, document: product.document },
    blank,
    list,
    exchangeRates,
    settings,
    sentSkus,
    shots: shots.map(shotView),
    // Those on the product are there however many came after them.
    artworks: [
      ...artworks,
      ...[...bundle.artworks.values()].filter(({ id }) => artworks.every((one) => one.id !== id)),
    ].map(publicArtwork),
    stores: stores.map((store) => {
      const { about } = channelOf(ctx, store.channel);
      return {
        ...outletOf(ctx, store),
        id: store.id,
        channelName: about.name,
        shortName: shortName({ name: store.name, channelName: about.name }, named),
        shopName: store.shopName,
        demands: demandsOf(ctx, store),
        shades: store.settings.answers?.shades,
        sizesIn: store.settings.sizesIn,
        language: store.settings.language,
        sendsAs: sendsAs(store),
      };
    }),
    listings: stores.flatMap((store) =>
      listingPlaces(product, store.id, rows).map((place) =>
        listingView(store, place, prepareListed(ctx, bundle, store, place.row, place.number)),
      ),
    ),
    personId: actor.personId,
    personName: actor.personName,
    home: { currency: actor.currency, country: actor.country },
  };
}
