import type { Matrix } from '../geometry/matrix';
import { AFFINE_WASM } from './affine.wasm';
import type { Raster } from './raster';
import { WEIGHTS } from './weights';

interface Kernel {
  draw(
    src: number,
    sw: number,
    sh: number,
    blocks: number,
    weights: number,
    out: number,
    tw: number,
    fromY: number,
    toY: number,
    a: number,
    b: number,
    c: number,
    d: number,
    e: number,
    f: number,
  ): void;
}

const PAGE = 65_536;
/** The kernel's own stack and data lie below this. */
const FREE_FROM = PAGE;
const align = (address: number): number => (address + 15) & ~15;

let compiled: WebAssembly.Module | null | undefined;

/** The compiled kernel, or null where this machine has no WebAssembly SIMD. */
function kernelModule(): WebAssembly.Module | null {
  if (compiled !== undefined) return compiled;
  try {
    compiled = new WebAssembly.Module(Uint8Array.from(atob(AFFINE_WASM), (c) => c.charCodeAt(0)));
  } catch {
    compiled = null;
  }
  return compiled;
}

/**
 * Draws by the WebAssembly kernel; false when there is none or the pictures are too large for its memory, and nothing was drawn. Each call has
 * a memory of its own, given back with it: WebAssembly memory never shrinks, and a worker draws posters only now and then.
 */
export function drawAffineWasm(target: Raster, source: Raster, inverse: Matrix, fromY: number, toY: number): boolean {
  const kernel = kernelModule();
  if (!kernel || toY <= fromY) return kernel !== null;
  const weightsAt = FREE_FROM;
  const blocksAt = align(weightsAt + WEIGHTS.byteLength);
  const sourceAt = align(blocksAt + (source.widthPx >> 4) * (source.heightPx >> 4));
  // A row of four pixels is read at once: the last one may reach past the picture.
  const outAt = align(sourceAt + source.data.byteLength + 64);
  const rowBytes = target.widthPx * 4;
  const bytes = outAt + (toY - fromY) * rowBytes;
  if (bytes > 3.5e9) return false;
  const memory = new WebAssembly.Memory({ initial: Math.ceil(bytes / PAGE) + 1 });
  const { draw } = new WebAssembly.Instance(kernel, { env: { memory } }).exports as unknown as Kernel;
  const view = new Uint8Array(memory.buffer);
  new Int32Array(memory.buffer, weightsAt, WEIGHTS.length).set(WEIGHTS);
  view.set(source.data, sourceAt);
  const rows = target.data.subarray(fromY * rowBytes, toY * rowBytes);
  view.set(rows, outAt);
  // The first row drawn is row 0 of the kernel's target: its part of the map is moved along.
  const { a, b, c, d, e, f } = inverse;
  draw(
    sourceAt,
    source.widthPx,
    source.heightPx,
    blocksAt,
    weightsAt,
    outAt,
    target.widthPx,
    0,
    toY - fromY,
    a,
    b,
    c,
    d,
    e + c * fromY,
    f + d * fromY,
  );
  rows.set(view.subarray(outAt, outAt + rows.byteLength));
  return true;
}
