import { PAGE } from '../print/wasm-module';
import type { Raster } from '../print/pixels';
import { align, LEVEL_BYTES, LEVELS, type Layout } from './kernel-memory';
import type { ShotOps } from './ops';

/** Pixels of one call: so few that the kernel is soon run as optimized code, which begins with a call. */
export const CALL_PX = 16_384;

/** Bytes of memory when a sheet of this size lies in it with its copies. */
export function bytesWithSheet({ end }: Layout, widthPx: number, heightPx: number): number {
  const pixels = widthPx * heightPx;
  return align(end) + pixels * 4 + Math.ceil((pixels * 8 * 4) / 3) + LEVELS * 64 * (widthPx + heightPx) + 64;
}

/** Brings a sheet into memory in linear light, with its halved copies; the memory grows where it is too small. Gives how many copies there are. */
export function loadSheet(
  memory: WebAssembly.Memory,
  ops: ShotOps,
  layout: Layout,
  { widthPx, heightPx, data }: Raster,
): number {
  const more = Math.ceil((bytesWithSheet(layout, widthPx, heightPx) - memory.buffer.byteLength) / PAGE);
  if (more > 0) memory.grow(more);
  let count = 1;
  for (let [w, h] = [widthPx, heightPx]; Math.min(w, h) > 4 && count < LEVELS; count += 1)
    [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
  const pixels = align(layout.end);
  let at = align(pixels + data.byteLength);
  new Uint8Array(memory.buffer, pixels, data.byteLength).set(data);
  const { lin, undo, levels } = layout.at;
  for (let i = 0; i < widthPx * heightPx; i += CALL_PX)
    ops.linear(pixels + i * 4, at + i * 8, Math.min(CALL_PX, widthPx * heightPx - i), lin, undo);
  const view = new DataView(memory.buffer);
  for (let k = 0, [w, h] = [widthPx, heightPx]; k < count; k += 1) {
    const record = levels + k * LEVEL_BYTES;
    view.setInt32(record, at, true);
    view.setInt32(record + 4, w, true);
    view.setInt32(record + 8, h, true);
    const next = align(at + w * h * 8);
    if (k + 1 < count) halve(ops, at, w, h, next);
    [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
    at = next;
  }
  return count;
}

function halve(ops: ShotOps, from: number, w: number, h: number, to: number): void {
  const rows = 2 * Math.max(1, Math.floor(CALL_PX / w / 2));
  for (let y = 0; y < h; y += rows)
    ops.halve(from + y * w * 8, w, Math.min(rows, h - y), to + (y / 2) * ((w + 1) >> 1) * 8);
}
