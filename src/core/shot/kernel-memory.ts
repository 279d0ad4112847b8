import { UNDO } from '../print/png-filter-reference';
import type { AreaView } from './area-view';
import type { Finish } from './finish';
import { LINEAR15 } from './ops-reference';
import type { AreaPlanes, Planes } from './planes';
import { ownEntry } from '../own-entry';

/** Most copies of a sheet, each half of the one before, and the bytes of a record of one. */
export const LEVELS = 6;
export const LEVEL_BYTES = 16;

export const align = (at: number): number => (at + 15) & ~15;

/** Copies values into memory; how many bytes each has is the array's own matter. */
export const put = (
  memory: WebAssembly.Memory,
  at: number,
  values: Uint8Array | Uint16Array | Uint32Array | Int32Array,
) =>
  new Uint8Array(memory.buffer, at, values.byteLength).set(
    new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
  );

/** An area of a shot in memory: what is needed of its planes, where the rest lies, and what is printed on it. */
export interface KernelArea {
  readonly planes: Pick<AreaPlanes, 'box' | 'uMm' | 'vMm'>;
  readonly view: AreaView | null;
  readonly at: AreaAddresses;
  readonly weaves: Map<string, Uint8Array>;
  printed: Finish | null;
}

/** Where a shot lies in the kernel's memory, bytes; 0 for what a shot does not have. */
export interface Layout {
  readonly at: ReturnType<typeof sharedAddresses>;
  readonly areas: ReadonlyMap<string, AreaAddresses>;
  /** Pictures that are in memory beside each other. */
  readonly slots: readonly number[];
  /** Room for the weave of one area. */
  readonly weave: number;
  /** Where there is fabric, run by run: first pixel, length, and 1 where nothing lies over it. */
  readonly runs: Int32Array;
  /** First byte that is free: sheets are put after it. */
  readonly end: number;
}
type AreaAddresses = ReturnType<typeof areaAddresses>;
type Take = (bytes: number) => number;

const sharedAddresses = (planes: Planes, runs: Int32Array, take: Take) => {
  const n = planes.box.widthPx * planes.box.heightPx;
  return {
    lin: take(512),
    undo: take(1024),
    tone: take(65536),
    over: take(n * 8),
    light: take(n * 2),
    direct: planes.direct ? take(n * 2) : 0,
    specular: planes.specular ? take(n * 2) : 0,
    cover: take(planes.cover ? n : 16),
    heather: planes.pattern ? take(n) : 0,
    relit: take(n * 2),
    curve: take(32768),
    shades: take(65536 * 4),
    runs: take(runs.byteLength),
    levels: take(LEVELS * LEVEL_BYTES),
  };
};

const areaAddresses = (area: AreaPlanes, take: Take) => {
  const n = area.share.length;
  return {
    share: take(n),
    u: take(n * 2),
    v: take(n * 2),
    scale: take(n),
    light: area.light ? take(n * 2) : 0,
    ink: take(n * 8),
    settled: take(n * 8),
  };
};

function runsOf({ box, over, light }: Planes): Int32Array {
  const runs: number[] = [];
  for (let y = 0, i = 0; y < box.heightPx; y += 1) {
    let open = -1;
    for (let x = 0; x < box.widthPx; x += 1, i += 1) {
      const kind = light[i] === 0 ? -1 : over[i * 4]! | over[i * 4 + 1]! | over[i * 4 + 2]! ? 0 : 1;
      if (kind === open) {
        if (kind >= 0) runs[runs.length - 2]! += 1;
      } else if (kind >= 0) runs.push(i, 1, kind);
      open = kind;
    }
  }
  return Int32Array.from(runs);
}

/** Gives everything of a shot its place, from `from` on. */
export function layOut(planes: Planes, from: number, slots: number, step: number): Layout {
  let end = from;
  const take = (bytes: number) => {
    const at = end;
    end = align(at + bytes);
    return at;
  };
  const runs = planes.cover ? runsOf(planes) : new Int32Array(0);
  const at = sharedAddresses(planes, runs, take);
  const pictures = Array.from({ length: slots }, () => take(planes.widthPx * planes.heightPx * step + 16));
  const areas = new Map(Object.entries(planes.areas).map(([key, area]) => [key, areaAddresses(area, take)]));
  const weave = take(Math.max(16, ...Object.values(planes.areas).map((area) => area.share.length)));
  return { at, areas, slots: pictures, weave, runs, end };
}

/** Puts what does not change into its place. */
export function fill(memory: WebAssembly.Memory, planes: Planes, { at, areas, runs }: Layout): void {
  put(memory, at.lin, LINEAR15);
  put(memory, at.undo, UNDO);
  put(memory, at.tone, planes.tone);
  put(memory, at.over, planes.over);
  put(memory, at.light, planes.light);
  if (planes.direct) put(memory, at.direct, planes.direct);
  if (planes.specular) put(memory, at.specular, planes.specular);
  if (planes.cover) put(memory, at.cover, planes.cover);
  put(memory, at.runs, runs);
  for (const [key, own] of areas) {
    const area = ownEntry(planes.areas, key)!;
    put(memory, own.share, area.share);
    put(memory, own.u, area.u);
    put(memory, own.v, area.v);
    put(memory, own.scale, area.scale);
    if (area.light) put(memory, own.light, area.light);
  }
}
