import { likenessDistance, SAME_LIKENESS } from '../artwork/likeness';
import { colorDifference, labOf } from '../catalog/families';

/** What a picture is like: its difference hash, and the mean color of its middle. */
export interface Alike {
  readonly id: string;
  readonly likeness: string | null;
  readonly tint: string | null;
}

/** Colors that differ less are taken for the same at a glance (CIEDE2000; by eye, no source). */
const SAME_COLOR = 3;

/** For each picture that looks like one before it, the id of that one. A view in another color is another picture. */
export function nearDuplicates(pictures: readonly Alike[]): Map<string, string> {
  const found = new Map<string, string>();
  pictures.forEach((picture, i) => {
    const before = pictures.slice(0, i).find((other) => !found.has(other.id) && looksLike(picture, other));
    if (before) found.set(picture.id, before.id);
  });
  return found;
}

const looksLike = (one: Alike, other: Alike): boolean =>
  one.likeness !== null &&
  other.likeness !== null &&
  one.tint !== null &&
  other.tint !== null &&
  likenessDistance(one.likeness, other.likeness) <= SAME_LIKENESS &&
  colorDifference(labOf(one.tint), labOf(other.tint)) < SAME_COLOR;
