import type { Blank } from '@/core/catalog/blank';
import { companionIdsOf, usedAreas, type ProductDocument } from '@/core/document/document';
import { isTypicaError } from '@/core/errors';
import { formHash } from '@/core/listing/form-text';
import { standingAnswers } from '@/core/listing/answers';
import { everyOffer, listingForm, offersOf, type ListingForm, type Offers } from '@/core/listing/form';
import { asListed, FIRST_LISTING, soldListings } from '@/core/document/split';
import { keyInForm, longSideInForm } from '@/core/listing/picture-format';
import { shadeAnswers } from '@/core/listing/shades';
import { CLOSE_UP, pictureSize, planPictures, type PicturePlan } from '@/core/listing/pictures';
import { offerName, splitBundled } from '@/core/pricing/bundle';
import { lossesAt, type LosingVariant } from '@/core/pricing/floor';
import { leastLeft, type Left } from '@/core/pricing/least-left';
import type { Outlet } from '@/core/pricing/outlet';
import { saleAt, type SaleOff } from '@/core/pricing/sale';
import { money } from '@/core/pricing/money';
import { sellsTo } from '@/core/pricing/terms';
import type { ChannelDemands, DocketPart, RuleResult } from '@/core/rules/demands';
import { evaluateRules } from '@/core/rules/evaluate';
import type { RuleFacts } from '@/core/rules/rule';
import type { ChannelAbout } from '@/ports/channel';
import type { Context } from '../context';
import { pictureWorld, type ProductBundle } from '../products/bundle';
import { channelOf, demandsOf, outletOf, type Store } from '../stores/stores';
import { ownEntry } from '@/core/own-entry';

/** A product made ready for one store, without asking anyone: its form there, its pictures, and every rule of the channel. */
export interface PreparedListing {
  /** Null when the form cannot be made; then one broken rule says why. */
  readonly form: ListingForm | null;
  readonly hash: string | null;
  readonly pictures: readonly PicturePlan[];
  readonly rules: readonly RuleResult[];
  /** Variants that would be sold at a loss. */
  readonly losing: readonly LosingVariant[];
  /** What least is left of a sale, over all that is offered and all destinations; null without a form. */
  readonly left: Left | null;
}

type PictureFacts = Pick<RuleFacts, 'pictureLongSidePx' | 'firstCanBeOnWhite'>;

function pictureFacts(pictures: readonly PicturePlan[], demands: ChannelDemands): PictureFacts {
  const sizes = pictures.map((picture) => longSideInForm(pictureSize(picture), demands.pictureFormat));
  const [first] = pictures;
  return {
    pictureLongSidePx: sizes.length > 0 ? Math.min(...sizes) : demands.pictureLongSideMinPx,
    // A close-up fills its frame: there is no ground around it.
    firstCanBeOnWhite: !first || (first.shot !== null && first.shot.document.angle !== CLOSE_UP),
  };
}

type OwnFacts = Pick<RuleFacts, 'channelName' | 'shopName' | 'partnerDeclared' | 'place' | 'exemption' | 'goodName'>;

/** What the store's settings and the shop itself say. */
function storeFacts(
  { shopName, settings, shopFacts }: Store,
  about: ChannelAbout,
  form: ListingForm,
  blank: Blank,
): OwnFacts {
  const brand = settings.answers?.brand;
  return {
    channelName: about.name,
    shopName,
    partnerDeclared: settings.declaredPartners.includes(blank.partner.name),
    place: shopFacts.categories?.find(({ id }) => id === form.category) ?? null,
    exemption: shopFacts.exemptions?.find((one) => one.brand === brand)?.state ?? 'none',
    goodName: blank.name,
  };
}

/** What the store answers its channel for a product on that blank. */
const answersOf = (document: ProductDocument, blank: Blank, { id, settings, shopFacts }: Store, about: ChannelAbout) =>
  standingAnswers(settings.answers ?? {}, about, blank, shopFacts.exemptions ?? [], ownEntry(document.shades, id));

/** Colors that have none of the shop's names. */
const unnamedColors = ({ shades }: ProductDocument, blank: Blank, store: Store, demands: ChannelDemands) =>
  shadeAnswers(blank, demands.shades ?? [], {
    product: ownEntry(shades, store.id),
    store: store.settings.answers?.shades,
  }).filter(({ shade }) => shade === null);

const PART_OF: Record<string, DocketPart> = {
  'nothing-chosen': 'variants',
  'cost-missing': 'variants',
  'bundle-broken': 'price',
  'rate-missing': 'price',
  'price-unsolvable': 'price',
};

/** What the sales that a product is in take off in a store. */
export const salesAt = ({ sales, rates }: ProductBundle, { id, currency }: Outlet): SaleOff[] =>
  sales
    .filter(({ scope }) => scope.storeIds.length === 0 || scope.storeIds.includes(id!))
    .map(({ terms }) => saleAt(terms, currency, rates));

const printedAreas = (doc: ProductDocument, { areas }: Blank): number =>
  usedAreas(
    doc,
    areas.map(({ key }) => key),
  ).length;

/** What of a form is sold at a loss, at the price that is asked for there: a sale can make it another one. */
function losingOf(form: ListingForm, offers: Offers, document: ProductDocument, blank: Blank): LosingVariant[] {
  const keys = Object.keys(form.variants).filter((key) => splitBundled(key).bundleId === null);
  return everyOffer(offers, keys).flatMap(({ key, to, floor }) => {
    const { priceMinor } = ownEntry(form.variants, key)!;
    const losses = lossesAt(to, priceMinor);
    return losses.length > 0
      ? [{ key, name: offerName(blank, document, key), priceMinor, losses, floorMinor: floor.minor }]
      : [];
  });
}

/** What least is left of what a form offers, at its prices. */
function leftOf(form: ListingForm, offers: Offers): Left | null {
  const keys = Object.keys(form.variants).filter((key) => splitBundled(key).bundleId === null);
  return leastLeft(
    everyOffer(offers, keys).map(({ key, to }) => ({ priceMinor: ownEntry(form.variants, key)!.priceMinor, to })),
  );
}

/** What is sold at a loss at prices that somebody set in the shop: `here` is the listing's form here, `there` what the shop shows. */
export function losingThere(
  ctx: Context,
  { product, blank, list, rates, settings, home, companions }: ProductBundle,
  store: Store,
  { here, there, number }: { readonly here: ListingForm; readonly there: ListingForm; readonly number: number },
): LosingVariant[] {
  const document = asListed(product.document, store.id, number);
  const offers = offersOf(document, { blank, list, rates, outlet: outletOf(ctx, store), settings, home }, companions);
  const priceThere = (key: string) => ownEntry(there.variants, key)?.priceMinor;
  const variants = Object.fromEntries(
    Object.entries(here.variants).map(([key, own]) => [key, { ...own, priceMinor: priceThere(key) ?? own.priceMinor }]),
  );
  const setThere = (key: string) => ![undefined, ownEntry(here.variants, key)?.priceMinor].includes(priceThere(key));
  return losingOf({ ...here, variants }, offers, document, blank).filter(({ key }) => setThere(key));
}

/** What is broken of a listing whose colors are in others now. */
const LEFT_OVER: RuleResult = {
  id: 'left-over',
  kept: false,
  says: 'None of its colors is sold in this listing any more: they are in another one, or nowhere.',
  mend: 'Delete it, here and in the shop; or give it colors again.',
  part: 'variants',
};

const UNMADE = { form: null, hash: null, losing: [], left: null };

/** Of the listings of a product in a store the one of that number. */
export function prepareListing(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  refusedPictures: RuleFacts['refusedPictures'] = [],
  number = FIRST_LISTING,
): PreparedListing {
  const { about } = channelOf(ctx, store.channel);
  const { product, blank, list, rates, settings, home, sentSkus, companions } = bundle;
  const outlet = outletOf(ctx, store);
  const document = asListed(product.document, store.id, number);
  const demands = demandsOf(ctx, store);
  const pictures = planPictures(document, pictureWorld(bundle), store.id, demands.picturesMax).map((picture) => ({
    ...picture,
    key: keyInForm(picture.key, pictureSize(picture), demands.pictureFormat),
  }));
  if (!soldListings(product.document, store.id).includes(number)) return { ...UNMADE, pictures, rules: [LEFT_OVER] };
  try {
    const form = listingForm({
      productId: product.id,
      doc: document,
      blank,
      list,
      rates,
      outlet,
      pictures,
      settings,
      home,
      sentSkus,
      sales: salesAt(bundle, outlet),
      comparesAt: about.comparesAt,
      companions,
      optionsMax: demands.optionsMax,
      carries: about.carries,
      sizesIn: store.settings.sizesIn,
      answers: answersOf(document, blank, store, about),
    });
    const offers = offersOf(document, { blank, list, rates, outlet, settings, home }, companions);
    const losing = losingOf(form, offers, document, blank);
    const rules = evaluateRules(form, demands, {
      ...storeFacts(store, about, form, blank),
      ...pictureFacts(pictures, demands),
      refusedPictures,
      soldTo: sellsTo(product.document, outlet),
      sumHere: ({ minor, currency }) =>
        currency === null || currency === store.currency
          ? minor
          : rates.convert(money(minor, currency), store.currency).amountMinor,
      losing,
      lossesAccepted: bundle.floorAccepted.find((one) => one.storeId === store.id) ?? null,
      unnamedColors: unnamedColors(document, blank, store, demands),
      usedAreaCount: printedAreas(product.document, blank),
      bareCompanions: companionIdsOf(product.document).flatMap((id) => {
        const { doc, blank: own, title } = companions.get(id)!;
        return printedAreas(doc, own) === 0 ? [title] : [];
      }),
    });
    return { form, hash: formHash(form), pictures, rules, losing, left: leftOf(form, offers) };
  } catch (error) {
    if (!isTypicaError(error) || !error.visible) throw error;
    return {
      ...UNMADE,
      pictures,
      rules: [
        {
          id: error.code,
          kept: false,
          says: error.message,
          mend: null,
          part: ownEntry(PART_OF, error.code) ?? 'price',
        },
      ],
    };
  }
}
