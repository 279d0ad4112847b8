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
  pack(bytes: number, from: number, end: number, tokens: number, state: number, out: number, last: number): number;
  close(state: number, out: number, last: number): number;
}

/** The kernel's own stack and data lie below this. */
const FREE_FROM = PAGE;
/** Bytes that the packer takes at a time. */
const BLOCK_BYTES = 1 << 16;
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

  /**
   * Packs bytes as DEFLATE (RFC 1951) by runs only; ends at a byte, and with the end mark if they are the `last`. Null where there is no
   * WebAssembly SIMD. Always the same bytes for the same bytes.
   */
  pack(bytes: Uint8Array, last: boolean): Uint8Array | null {
    if (!this.kernel) return null;
    const state = FREE_FROM;
    const tokens = align(state + 32);
    const from = align(tokens + 2 * BLOCK_BYTES + 16);
    const out = align(from + bytes.length + 64);
    // Fifteen bits for a byte at the very worst, and the codes of each block.
    this.grow(out + 2 * bytes.length + 4096);
    const memory = new Uint8Array(this.memory.buffer);
    memory.fill(0, state, tokens);
    memory.set(bytes, from);
    let to = out;
    for (let at = 0; at < bytes.length || (at === 0 && last); at += BLOCK_BYTES) {
      const end = Math.min(bytes.length, at + BLOCK_BYTES);
      to = this.kernel.pack(from, at, end, tokens, state, to, last && end === bytes.length ? 1 : 0);
    }
    return memory.slice(out, this.kernel.close(state, to, last ? 1 : 0));
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
