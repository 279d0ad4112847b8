import type { ShotAreaFile } from '@/core/shot/shot';
import type { StoredShot } from '../catalog/blanks';

/** What is told of a shot: all but its passes. */
export interface ShotView {
  readonly id: string;
  readonly name: string;
  readonly angle: string;
  readonly turnDeg: number | null;
  /** Left out of the set of pictures that follows by itself. */
  readonly chosenOnly: boolean;
  readonly own: boolean;
  /** The beginning of its content's hash. */
  readonly hash: string;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly areas: { readonly [areaKey: string]: Pick<ShotAreaFile, 'variant' | 'flat'> };
}

export const shotView = ({ id, document, workspaceId, contentHash }: StoredShot): ShotView => ({
  id,
  name: document.name,
  angle: document.angle,
  turnDeg: document.turnDeg ?? null,
  chosenOnly: document.chosenOnly === true,
  own: workspaceId !== null,
  hash: contentHash.slice(0, 16),
  widthPx: document.widthPx,
  heightPx: document.heightPx,
  areas: Object.fromEntries(
    Object.entries(document.areas).map(([key, { variant, flat }]) => [key, { variant, ...(flat ? { flat } : {}) }]),
  ),
});
