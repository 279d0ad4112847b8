import { geometryIdFor, parseVariantKey, type Blank } from '@/core/catalog/blank';
import { showsShape } from '@/core/listing/pictures';
import { ownEntry } from '@/core/own-entry';
import type { BenchShot } from '../load';

/** Shots that show the variant in view in its shape; all of them where none does, or no variant is chosen. */
export function shotsInView(blank: Blank, shots: readonly BenchShot[], variant: string | null): readonly BenchShot[] {
  if (variant === null) return shots;
  const values = parseVariantKey(variant);
  const shown = shots.filter((shot) => showsShape(blank, shot, [values]));
  return shown.length > 0 ? shown : shots;
}

/** The shot to begin with: one of the area in view, in its very shape before any other, and from afar before from near. */
export function firstShot(
  blank: Blank,
  shots: readonly BenchShot[],
  areaKey: string,
  geometryId: string,
): BenchShot | null {
  const area = blank.areas.find((one) => one.key === areaKey);
  const of = shots.filter((shot) => Object.hasOwn(shot.areas, areaKey));
  const far = (some: readonly BenchShot[]) => some.find((shot) => shot.angle !== 'close-up') ?? some[0];
  const exact = of.filter((shot) => area && geometryIdFor(area, ownEntry(shot.areas, areaKey)!.variant) === geometryId);
  return far(exact) ?? far(of) ?? shots[0] ?? null;
}

/** The steps in which the good of a shot can be turned, from left to right; none when it cannot be. */
export function turningSteps(shots: readonly BenchShot[], shot: BenchShot | null): readonly BenchShot[] {
  if (!shot || shot.turnDeg === null) return [];
  return shots.filter((one) => one.turnDeg !== null).sort((a, b) => a.turnDeg! - b.turnDeg!);
}

/** The next step of turning by one to the left or right, or the same at the end. */
export function turned(steps: readonly BenchShot[], shot: BenchShot, by: number): BenchShot {
  const at = steps.findIndex((one) => one.id === shot.id);
  return steps[Math.min(steps.length - 1, Math.max(0, at + by))] ?? shot;
}
