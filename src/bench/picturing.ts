import type { Blank } from '@/core/catalog/blank';
import type { Picture, ProductDocument } from '@/core/document/document';
import { DEFAULT_PICTURES, defaultSet, type ShotAbout } from '@/core/listing/pictures';
import { inOrder, orderAtEnd, orderBetween } from '@/core/order-key';
import { ownEntry, putEntry } from '@/core/own-entry';

/** What a picture shows: two with the same subject are the same picture. */
export const subjectOf = ({ shotId, imageId, color }: Pick<Picture, 'shotId' | 'imageId' | 'color'>): string =>
  shotId === null ? `own/${imageId}` : `${shotId}/${color ?? ''}`;

const withBase = (doc: ProductDocument, base: ProductDocument['pictures']['base']): ProductDocument => ({
  ...doc,
  pictures: { ...doc.pictures, base },
});

/** What a seller chooses pictures from. */
export interface PictureChoice {
  readonly blank: Blank;
  readonly shots: readonly ShotAbout[];
  readonly newId: () => string;
}

/** The pictures as they are, in order: those that were chosen, or automatic set. */
export function picturesNow(doc: ProductDocument, { blank, shots }: Omit<PictureChoice, 'newId'>): [string, Picture][] {
  if (Object.keys(doc.pictures.base).length > 0) return inOrder(doc.pictures.base);
  const set = defaultSet(doc, blank, shots, DEFAULT_PICTURES);
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
  if (Object.keys(doc.pictures.base).length > 0) return doc;
  const base = Object.fromEntries(picturesNow(doc, choice).map(([, picture]) => [choice.newId(), picture]));
  return withBase(doc, base);
}

const idOf = (doc: ProductDocument, subject: string): string | undefined =>
  Object.entries(doc.pictures.base).find(([, picture]) => subjectOf(picture) === subject)?.[0];

/** Adds pictures at the end; those that are there stay where they are. */
export function addPictures(
  doc: ProductDocument,
  choice: PictureChoice,
  wanted: readonly Omit<Picture, 'order'>[],
): ProductDocument {
  const next = begun(doc, choice);
  const base: { [id: string]: Picture } = { ...next.pictures.base };
  for (const picture of wanted) {
    if (Object.values(base).some((one) => subjectOf(one) === subjectOf(picture))) continue;
    putEntry(base, choice.newId(), { ...picture, order: orderAtEnd(base) });
  }
  return withBase(next, base);
}

/** Puts shots in place of the pictures that there are, in this order; what is said of a picture that stays goes with it, and own files come last. */
export function arrangePictures(
  doc: ProductDocument,
  choice: PictureChoice,
  wanted: readonly { readonly shotId: string; readonly color: string | null }[],
): ProductDocument {
  const before = Object.entries(begun(doc, choice).pictures.base);
  const own = inOrder(Object.fromEntries(before.filter(([, picture]) => picture.shotId === null)));
  const base: { [id: string]: Picture } = {};
  for (const one of wanted) {
    const [id, picture] = before.find(([, there]) => subjectOf(there) === subjectOf(one)) ?? [choice.newId(), one];
    putEntry(base, id, { ...picture, order: orderAtEnd(base) });
  }
  for (const [id, picture] of own) putEntry(base, id, { ...picture, order: orderAtEnd(base) });
  return withBase(doc, base);
}

/** Takes pictures out; the last one that is taken out brings back automatic set. */
export function removePictures(
  doc: ProductDocument,
  choice: PictureChoice,
  subjects: readonly string[],
): ProductDocument {
  const next = begun(doc, choice);
  return withBase(
    next,
    Object.fromEntries(
      Object.entries(next.pictures.base).filter(([, picture]) => !subjects.includes(subjectOf(picture))),
    ),
  );
}

/** Puts a picture at a place among the others, 0 being the first. */
export function movePicture(doc: ProductDocument, choice: PictureChoice, subject: string, to: number): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, subject);
  if (!id) return doc;
  const others = inOrder(next.pictures.base).filter(([other]) => other !== id);
  const at = Math.max(0, Math.min(others.length, to));
  const order = orderBetween(others[at - 1]?.[1].order ?? null, others[at]?.[1].order ?? null);
  return withBase(next, { ...next.pictures.base, [id]: { ...ownEntry(next.pictures.base, id)!, order } });
}

/** Changes what is said of one picture. An empty alternative text brings back the one that is written from facts. */
export function describePicture(
  doc: ProductDocument,
  choice: PictureChoice,
  subject: string,
  alt: string,
): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, subject);
  if (!id) return doc;
  const { alt: _, ...rest } = ownEntry(next.pictures.base, id)!;
  return withBase(next, { ...next.pictures.base, [id]: alt.trim() ? { ...rest, alt } : rest });
}

/** Makes one picture the main one of its color, or takes that back. */
export function setMainPicture(
  doc: ProductDocument,
  choice: PictureChoice,
  subject: string,
  main: boolean,
): ProductDocument {
  const next = begun(doc, choice);
  const id = idOf(next, subject);
  if (!id) return doc;
  const { color } = ownEntry(next.pictures.base, id)!;
  return withBase(
    next,
    Object.fromEntries(
      Object.entries(next.pictures.base).map(([other, picture]) => {
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
  const id = idOf(next, subject);
  if (!id) return doc;
  const { main: _, ...rest } = ownEntry(next.pictures.base, id)!;
  return withBase(next, { ...next.pictures.base, [id]: { ...rest, color } });
}

/** Back to automatic set. */
export const resetPictures = (doc: ProductDocument): ProductDocument => withBase(doc, {});
