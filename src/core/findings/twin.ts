import { likenessDistance, SAME_LIKENESS } from '../artwork/likeness';
import type { ArtworkLayer } from '../document/document';
import type { Add, ArtworkSize, Twin } from './finding';

type Shape = Pick<ArtworkSize, 'widthPx' | 'heightPx' | 'likeness'>;

/** Whether two artworks can be the same picture: of one shape, and alike in light. Whether they are is told by `isSamePicture`. */
export const canBeTwins = (one: Shape, two: Shape): boolean =>
  Math.abs((one.widthPx * two.heightPx) / (one.heightPx * two.widthPx) - 1) < 0.02 &&
  one.likeness !== undefined &&
  two.likeness !== undefined &&
  likenessDistance(one.likeness, two.likeness) <= SAME_LIKENESS;

const sizeOf = ({ vector, widthPx, heightPx }: Omit<Twin, 'artworkId' | 'name'>): string =>
  vector ? 'a vector' : `${widthPx} × ${heightPx} px`;

/** The same picture brought twice: which one has more, and what they differ in. */
export function lookForTwin({ name, artworkId }: ArtworkLayer, own: ArtworkSize, add: Add): void {
  const larger = (twin: Twin) => !own.vector && (twin.vector || twin.widthPx > own.widthPx * 1.02);
  const twins = (own.twins ?? []).filter((twin) => twin.artworkId !== artworkId);
  const twin = twins.find(larger) ?? twins[0];
  if (!twin) return;
  const differs =
    sizeOf(twin) === sizeOf(own) ? `, also ${sizeOf(own)}` : `, ${sizeOf(twin)} instead of ${sizeOf(own)}`;
  add(
    'twin',
    'note',
    `${name} is the same picture as ${twin.name}${differs}.`,
    larger(twin) ? { kind: 'artwork', artworkId: twin.artworkId } : undefined,
  );
}
