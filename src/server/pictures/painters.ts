import path from 'node:path';
import { TypicaError } from '@/core/errors';
import type { PictureFormat } from '@/core/listing/picture-format';
import type { SheetPlan } from '@/core/print/plan';
import type { UsedThread } from '@/core/embroidery/sew';
import type { BlobFiles } from '@/ports/blobs';
import { imageRoom } from '../images/image-room';
import { PAINT_SECONDS, PAINTER_HOLDS_MB, PAINTER_MB } from '../images/limits';
import { sourcesOf } from '../prints/printer';
import { ProcessPool } from '../processes/pool';
import type { PhotoShot, PhotoShotOrder } from '../shots/photo-shot';
import { openStudio, programOf } from '../studio/folder';
import type { Painted, PaintOrder } from './painter';
import type { ShotFiles } from './shot-files';
import { processWide } from '../process-wide';

/** What the painter does: mock-ups, pictures out of photographs, threads of embroidered sheets, and shots made ready. */
export type StudioOrder =
  | { readonly kind: 'paint'; readonly order: PaintOrder }
  | { readonly kind: 'photograph'; readonly sha256: string; readonly form: PictureFormat; readonly small: boolean }
  | { readonly kind: 'threads'; readonly sheet: SheetPlan }
  | { readonly kind: 'planes'; readonly shot: ShotFiles }
  | { readonly kind: 'photo-shot'; readonly order: PhotoShotOrder };

export interface StudioResults {
  readonly paint: Painted;
  readonly photograph: Painted;
  readonly threads: { readonly threads: readonly UsedThread[]; readonly thinShare: number };
  /** The planes lie in the home's cache then. */
  readonly planes: null;
  readonly 'photo-shot': PhotoShot;
}

function needsOf(order: StudioOrder): Iterable<string> {
  switch (order.kind) {
    case 'paint':
      return [
        ...Object.values(order.order.shot.passes),
        ...order.order.sheets.flatMap((sheet) => [...sourcesOf(sheet)]),
      ];
    case 'photograph':
      return [order.sha256];
    case 'threads':
      return sourcesOf(order.sheet);
    case 'planes':
      return Object.values(order.shot.passes);
    case 'photo-shot':
      return [order.order.sha256];
  }
}

/** Orders that the process works on at a time: while one is packed the next is painted. */
const IN_FLIGHT = 4;

const pools = processWide(
  'painters',
  () => new Map<string, ProcessPool<StudioOrder, StudioResults[keyof StudioResults]>>(),
);

/** One process that paints for this one. All goes through it, so that a shot is in memory once. */
function painterOf(home: string, files: BlobFiles) {
  const have = pools.get(home);
  if (have) return have;
  const pool = new ProcessPool<StudioOrder, StudioResults[keyof StudioResults]>({
    name: 'painter',
    open: () =>
      openStudio<StudioOrder>({
        home,
        files,
        program: programOf('painter'),
        heapMb: 200,
        needs: needsOf,
        writable: [path.join(home, 'cache', 'planes')],
      }),
    size: 1,
    inFlight: IN_FLIGHT,
    seconds: PAINT_SECONDS,
    memoryMb: PAINTER_MB,
    room: imageRoom,
    holdsMb: PAINTER_HOLDS_MB,
    idleMs: 60_000,
    tooSlow: (seconds) =>
      new TypicaError(
        'invalid',
        'picture-too-slow',
        `This picture took longer than ${seconds} seconds to draw and was stopped. Simplify the artwork on it, or upload it as PNG.`,
      ),
    tooHeavy: (memoryMb) =>
      new TypicaError(
        'invalid',
        'picture-too-heavy',
        `This picture needed more than ${memoryMb} MB to draw and was stopped. Simplify the artwork on it, or upload it as PNG.`,
      ),
  });
  pools.set(home, pool);
  return pool;
}

/** Who asks for a picture. */
export interface Asker {
  readonly owner: string;
  readonly signal?: AbortSignal;
}

/** Has something done in the process that paints. Throws `picture-too-slow`, `picture-too-heavy`, `studio-busy`. */
export const inStudio = <K extends StudioOrder['kind']>(
  { config, files }: { readonly config: { readonly home: string }; readonly files: BlobFiles },
  order: Extract<StudioOrder, { kind: K }>,
  from: Asker,
): Promise<StudioResults[K]> => painterOf(config.home, files).ask(order, from) as Promise<StudioResults[K]>;
