import { filterRowsReference, isOpaqueReference, UNDO, type FilterJob, type Filtered } from './png-filter-reference';
import { PNG_WASM } from './png.wasm';
import { compileKernel, PAGE } from './wasm-module';

export type { FilterJob, Filtered };

interface Kernel {
  filter(
    pixels: number,
    widthPx: number,
    rows: number,
    bytesPerPixel: number,
    undo: number,
    before: number,
    two: number,
    out: number,
    adler: number,
  ): number;
  opaque(pixels: number, count: number): number;
}

/** The kernel's own stack and data lie below this. */
const FREE_FROM = PAGE;
const align = (address: number): number => (address + 15) & ~15;

/**
 * Filters the rows of one picture, strip after strip. It keeps the memory of its kernel from one strip to the next: make one for a picture
 * and let it go with it.
 */
export class PngFilter {
  private readonly memory = new WebAssembly.Memory({ initial: 1 });
  private readonly kernel: Kernel | null;

  constructor() {
    const built = compileKernel(PNG_WASM);
    this.kernel = built
      ? (new WebAssembly.Instance(built, { env: { memory: this.memory } }).exports as unknown as Kernel)
      : null;
  }

  /** Gives bytes of its own, which later strips do not touch. */
  rows(job: FilterJob): Filtered {
    if (!this.kernel) return filterRowsReference(job);
    const { pixels, widthPx, rows, bytesPerPixel, before, adler } = job;
    const stride = widthPx * bytesPerPixel;
    const beforeAt = align(FREE_FROM + UNDO.byteLength);
    const twoAt = align(beforeAt + widthPx * 4);
    const pixelsAt = align(twoAt + 2 * (stride + 48));
    const outAt = align(pixelsAt + pixels.byteLength);
    // A row is written sixteen bytes at a time: the last one reaches past its end.
    const bytes = (stride + 1) * rows;
    this.grow(outAt + bytes + 64);
    const at = <T extends Uint32Array>(address: number, values: T) =>
      new Uint32Array(this.memory.buffer, address, values.length).set(values);
    at(FREE_FROM, UNDO);
    at(pixelsAt, pixels);
    if (before) at(beforeAt, before);
    const sum = this.kernel.filter(
      pixelsAt,
      widthPx,
      rows,
      bytesPerPixel,
      FREE_FROM,
      before ? beforeAt : 0,
      twoAt,
      outAt,
      adler,
    );
    return { bytes: new Uint8Array(this.memory.buffer, outAt, bytes).slice(), adler: sum >>> 0 };
  }

  isOpaque(pixels: Uint32Array): boolean {
    if (!this.kernel) return isOpaqueReference(pixels);
    // In pieces, so that a poster does not ask for its own size once more.
    const piece = 1 << 20;
    this.grow(FREE_FROM + piece * 4);
    for (let from = 0; from < pixels.length; from += piece) {
      const part = pixels.subarray(from, from + piece);
      new Uint32Array(this.memory.buffer, FREE_FROM, part.length).set(part);
      if (!this.kernel.opaque(FREE_FROM, part.length)) return false;
    }
    return true;
  }

  private grow(bytes: number): void {
    const more = Math.ceil((bytes - this.memory.buffer.byteLength) / PAGE);
    if (more > 0) this.memory.grow(more);
  }
}
