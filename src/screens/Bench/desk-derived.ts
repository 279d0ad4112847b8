import memoizeOne from 'memoize-one';
import { geometryIdFor, parseVariantKey, type Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { chosenColors, chosenGeometryIds } from '@/core/document/chosen';
import type { BenchArtwork, DeskDerived, DeskFacts } from './desk';
import type { ProofAsking, ProofView } from './Proof/proof-view';
import { firstShot, shotsInView } from './Proof/view';

/** The color in view until one is asked for: the first that is chosen, also when a product began without any. */
const colorInView = (wish: string | null, doc: ProductDocument, blank: Blank): string | null =>
  wish ?? chosenColors(doc, blank)[0] ?? null;

/** The first chosen variant in the color in view, unless one was picked that is still chosen. */
export function variantInView(
  wish: string | null,
  color: string | null,
  variants: ProductDocument['variants'],
  blank: Blank,
): string | null {
  const keys = blank.variants.filter((v) => Object.hasOwn(variants, v.key)).map((v) => v.key);
  if (wish && keys.includes(wish)) return wish;
  const inColor = keys.filter((key) => color === null || Object.values(parseVariantKey(key)).includes(color));
  // Of a long run of sizes the second: M says more than S.
  return inColor[inColor.length > 3 ? 1 : 0] ?? keys[0] ?? null;
}

/** The shape of an area that is in view: the one asked for, the variant's own, or the first that is chosen. */
function geometryInView(
  { areaKey, wish }: Pick<DeskFacts, 'areaKey' | 'wish'>,
  doc: ProductDocument,
  blank: Blank,
  variant: string | null,
): string {
  const area = blank.areas.find((a) => a.key === areaKey)!;
  const own = variant ? geometryIdFor(area, parseVariantKey(variant)) : null;
  return wish.geometryId ?? own ?? chosenGeometryIds(doc, blank, areaKey)[0] ?? area.geometries[0]!.geometryId;
}

const checkedSizesOf = (artworks: readonly BenchArtwork[]): DeskDerived['checkedSizes'] =>
  Object.fromEntries(
    artworks.map(({ id, facts, name, replaced, twins }) => [
      id,
      facts ? { ...facts, name, replaced, twins } : undefined,
    ]),
  );

/** What each derived part follows from, kept until one of these changes. */
function derivers() {
  const sizes = memoizeOne(
    (artworks: readonly BenchArtwork[]) =>
      new Map(artworks.flatMap(({ id, facts }) => (facts ? [[id, facts] as const] : []))),
  );
  const checkedSizes = memoizeOne(checkedSizesOf);
  const designed = memoizeOne(
    (doc: ProductDocument) => doc,
    ([doc], [old]) => doc.areas === old.areas && doc.variants === old.variants,
  );
  const color = memoizeOne(
    colorInView,
    ([wish, doc, blank], [before, old, same]) => wish === before && doc.variants === old.variants && blank === same,
  );
  const variant = memoizeOne(variantInView);
  // A price follows from the plan, the variants and what is printed where; words and pictures have no part in it.
  const priceable = memoizeOne(
    (doc: ProductDocument) => doc,
    ([doc], [old]) =>
      doc.price === old.price &&
      doc.bundles === old.bundles &&
      doc.areas === old.areas &&
      doc.variants === old.variants,
  );
  const shots = memoizeOne(shotsInView);
  return { sizes, checkedSizes, designed, color, variant, priceable, shots };
}

/**
 * Works out what follows from the bench's facts, each part only when what it follows from has changed: a title that is typed prices nothing
 * and asks for no proof. One for each bench.
 */
export function deskDerivation(
  askingOf: (blank: Blank, artworks: DeskFacts['artworks'], letterings: DeskFacts['letterings']) => ProofAsking,
  setShot: (id: string) => void,
  setOpen: ProofView['setOpen'],
): (facts: DeskFacts) => DeskDerived {
  const { sizes, checkedSizes, designed, color, variant, priceable, shots } = derivers();
  const asking = memoizeOne(askingOf);
  const proof = memoizeOne(
    (who: ProofAsking, some: ProofView['shots'], shot: ProofView['shot'], open: ProofView['open']): ProofView => ({
      asking: who,
      shots: some,
      shot,
      setShot,
      open,
      setOpen,
    }),
  );
  return (facts) => {
    const { data, state, artworks, areaKey, wish } = facts;
    const { blank } = data;
    const doc = state.document;
    const inColor = color(wish.color, doc, blank);
    const inVariant = variant(wish.variant, inColor, doc.variants, blank);
    const geometryId = geometryInView(facts, doc, blank, inVariant);
    const store = data.stores.find(({ id }) => id === wish.storeId) ?? null;
    const inView = shots(blank, data.shots, inVariant);
    const wished = wish.shot?.areaKey === areaKey ? inView.find(({ id }) => id === wish.shot!.id) : undefined;
    const who = asking(blank, artworks, facts.letterings);
    return {
      doc,
      designed: designed(doc),
      priceable: priceable(doc),
      revision: state.revision,
      save: state.save,
      artworkSizes: sizes(artworks),
      checkedSizes: checkedSizes(artworks),
      selected: facts.selection.at(-1) ?? null,
      color: inColor,
      variant: inVariant,
      geometryId,
      store,
      asking: who,
      proof: proof(who, inView, wished ?? firstShot(blank, inView, areaKey, geometryId), facts.proofOpen),
    };
  };
}
