import type { Blank } from '@/core/catalog/blank';
import type { Picture, Pictures, ProductDocument } from '@/core/document/document';
import { asSoldIn } from '@/core/document/offered';
import { DEFAULT_PICTURES, defaultSet, type ShotAbout } from '@/core/listing/pictures';
import { inOrder, orderAtEnd, orderBetween } from '@/core/order-key';
import { ownEntry, putEntry } from '@/core/own-entry';

/** What a picture shows: two with the same subject are the same picture. */
export const subjectOf = ({ shotId, imageId, color }: Pick<Picture, 'shotId' | 'imageId' | 'color'>): string =>
  shotId === null ? `own/${imageId}` : `${shotId}/${color ?? ''}`;

/** What a seller chooses pictures from, and for whom. */
export interface PictureChoice {
  readonly blank: Blank;
  readonly shots: readonly ShotAbout[];
  readonly newId: () => string;
  /** The store whose own set is chosen; absent: the set for all. */
  readonly storeId?: string;
}

type Place = Pick<PictureChoice, 'storeId'>;
const NONE: Pictures = {};

/** The set that was chosen for a store, or for all; none is empty. */
export const chosenSet = ({ pictures }: ProductDocument, { storeId }: Place): Pictures =>
  storeId === undefined ? pictures.base : (ownEntry(pictures.stores, storeId) ?? NONE);

function withSet(doc: ProductDocument, { storeId }: Place, set: Pictures): ProductDocument {
  const { pictures } = doc;
  if (storeId === undefined) return { ...doc, pictures: { ...pictures, base: set } };
  const { [storeId]: _before, ...others } = pictures.stores;
  const stores = Object.keys(set).length > 0 ? { ...others, [storeId]: set } : others;
  return { ...doc, pictures: { ...pictures, stores } };
}

/** The pictures as they are, in order: those that were chosen for the store or for all, or automatic set. */
export function picturesNow(doc: ProductDocument, choice: Omit<PictureChoice, 'newId'>): [string, Picture][] {
  const { blank, shots, storeId = null } = choice;
  for (const set of [chosenSet(doc, choice), doc.pictures.base]) if (Object.keys(set).length > 0) return inOrder(set);
  const set = defaultSet(asSoldIn(doc, storeId), blank, shots, DEFAULT_PICTURES);
  const keys = orders(set.length);
  // Ids of what is not chosen yet are made of what it shows.
  return set.map(({ shot, color }, i) => {
    const picture = { shotId: shot.id, color, order: keys[i]! };
    return [subjectOf(picture), picture];
  });
}

/** So many order keys, one after the other. */
function orders(count: number): string[] {
  const made: { [id: string]: { order: string } } = {};
  for (let i = 0; i < count; i += 1) made[i] = { order: orderAtEnd(made) };
  return Object.values(made).map(({ order }) => order);
}

/** The document with automatic set chosen, so that it can be changed. */
function begun(doc: ProductDocument, choice: PictureChoice): ProductDocument {
  if (Object.keys(chosenSet(doc, choice)).length > 0) return doc;
  const set = Object.fromEntries(picturesNow(doc, choice).map(([, picture]) => [choice.newId(), picture]));
  return withSet(doc, choice, set);
}

const idOf = (doc: ProductDocument, choice: PictureChoice, subject: string): string | undefined =>
  Object.entries(chosenSet(doc, choice)).find(([, picture]) => subjectOf(picture) === subject)?.[0];

/** Adds pictures at the end; those that are there stay where they are. */
export function addPictures(
  doc: ProductDocument,
  choice: PictureChoice,
  wanted: readonly Omit<Picture, 'order'>[],
): ProductDocument {
  const next = begun(doc, choice);
  const base: { [id: string]: Picture } = { ...chosenSet(next, choice) };
  for (const picture of wanted) {
    if (Object.values(base).some((one) => subjectOf(one) === subjectOf(picture))) continue;
    putEntry(base, choice.newId(), { ...picture, order: orderAtEnd(base) });
  }
  return withSet(next, choice, base);
}

/** Puts shots in place of the pictures that there are, in this order; what is said of a picture that stays goes with it, and own files come last. */
export function arrangePictures(
  doc: ProductDocument,
  choice: PictureChoice,
  wanted: readonly { readonly shotId: string; readonly color: string | null }[],
): ProductDocument {
  const before = Object.entries(chosenSet(begun(doc, choice), choice));
  const own = inOrder(Object.fromEntries(before.filter(([, picture]) => picture.shotId === null)));
  const base: { [id: string]: Picture } = {};
  for (const one of wanted) {
    const [id, picture] = before.find(([, there]) => subjectOf(there) === subjectOf(one)) ?? [choice.newId(), one];
    putEntry(base, id, { ...picture, order: orderAtEnd(base) });
  }
  for (const [id, picture] of own) putEntry(base, id, { ...picture, order: orderAtEnd(base) });
  return withSet(doc, choice, base);
}

/** Takes pictures out; the last one that is taken out brings back automatic set. */
export function removePictures(
  doc: ProductDocument,
  choice: PictureChoice,
  subjects: readonly string[],
): ProductDocument {
  const next = begun(doc, choice);
  return withSet(
    next,
    choice,
    Object.fromEntries(
      Object.entries(chosenSet(next, choice)).filter(([, picture]) => !subjects.includes(subjectOf(picture))),
    ),
  );
}

/** Puts a picture at a place among the others, 0 being the first. */
export function movePicture(doc: ProductDocument, choice: PictureChoice, subject: string, to: number): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, choice, subject);
  if (!id) return doc;
  const others = inOrder(chosenSet(next, choice)).filter(([other]) => other !== id);
  const at = Math.max(0, Math.min(others.length, to));
  const order = orderBetween(others[at - 1]?.[1].order ?? null, others[at]?.[1].order ?? null);
  return withSet(next, choice, {
    ...chosenSet(next, choice),
    [id]: { ...ownEntry(chosenSet(next, choice), id)!, order },
  });
}

/** Changes what is said of one picture. An empty alternative text brings back the one that is written from facts. */
export function describePicture(
  doc: ProductDocument,
  choice: PictureChoice,
  subject: string,
  alt: string,
): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, choice, subject);
  if (!id) return doc;
  const { alt: _, ...rest } = ownEntry(chosenSet(next, choice), id)!;
  return withSet(next, choice, { ...chosenSet(next, choice), [id]: alt.trim() ? { ...rest, alt } : rest });
}

/** Makes one picture the main one of its color, or takes that back. */
export function setMainPicture(
  doc: ProductDocument,
  choice: PictureChoice,
  subject: string,
  main: boolean,
): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, choice, subject);
  if (!id) return doc;
  const { color } = ownEntry(chosenSet(next, choice), id)!;
  return withSet(
    next,
    choice,
    Object.fromEntries(
      Object.entries(chosenSet(next, choice)).map(([other, picture]) => {
        const { main: _, ...rest } = picture;
        if (other === id) return [other, main ? { ...rest, main: true } : rest];
        return [other, main && picture.color === color ? rest : picture];
      }),
    ),
  );
}

/** Ties a picture of the seller's own to a color of the blank, or to none. */
export function tiePicture(
  doc: ProductDocument,
  choice: PictureChoice,
  subject: string,
  color: string | null,
): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, choice, subject);
  if (!id) return doc;
  const { main: _, ...rest } = ownEntry(chosenSet(next, choice), id)!;
  return withSet(next, choice, { ...chosenSet(next, choice), [id]: { ...rest, color } });
}

/** Back to automatic set, or for a store to the set for all. */
export const resetPictures = (doc: ProductDocument, place: Place): ProductDocument => withSet(doc, place, {});
