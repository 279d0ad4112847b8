import type { Matrix } from '../geometry/matrix';
import { AFFINE_WASM } from './affine.wasm';
import type { Raster } from './pixels';
import { compileKernel, PAGE } from './wasm-module';
import { WEIGHTS } from './weights';

interface Kernel {
  prepare(src: number, sw: number, sh: number, blocks: number): void;
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

/** The kernel's own stack and data lie below this. */
const FREE_FROM = PAGE;
const align = (address: number): number => (address + 15) & ~15;

/** Source pixels that the kernel holds at a time, if a strip does not need more: a window that follows the strips down. */
const WINDOW_BYTES = 24e6;
/** Target rows of one call: so few that they stay in the cache, and that the kernel is soon run as optimized code, which begins with a call. */
const CALL_ROWS = 64;
/** Rows around a sampled place that the cubic reaches, and one to spare. */
const REACH = 4;

/** A picture that is drawn strip by strip. The kernel's memory holds only the source rows that lie under the strips, and goes with it. */
export class AffineKernel {
  private readonly memory = new WebAssembly.Memory({ initial: 2 });
  private readonly kernel: Kernel;
  private window = { top: 0, bottom: 0 };

  private constructor(
    built: WebAssembly.Module,
    private readonly source: Raster,
    private readonly inverse: Matrix,
    private readonly windowBytes: number,
  ) {
    this.kernel = new WebAssembly.Instance(built, { env: { memory: this.memory } }).exports as unknown as Kernel;
  }

  /** Null where this machine has no WebAssembly SIMD. `inverse` maps target to source pixels. */
  static open(source: Raster, inverse: Matrix, windowBytes = WINDOW_BYTES): AffineKernel | null {
    const built = compileKernel(AFFINE_WASM);
    return built && new AffineKernel(built, source, inverse, windowBytes);
  }

  /** Draws over `strip`, whose first row is row `fromY` of the target. */
  draw(strip: Raster, fromY: number): void {
    const { source } = this;
    const { a, b, c, d, e, f } = this.inverse;
    const rowBytes = strip.widthPx * 4;
    for (let y = 0; y < strip.heightPx; y += CALL_ROWS) {
      const count = Math.min(CALL_ROWS, strip.heightPx - y);
      const at = this.hold(strip.widthPx, fromY + y, count);
      if (!at) continue;
      const { top, bottom } = this.window;
      const view = new Uint8Array(this.memory.buffer);
      const rows = strip.data.subarray(y * rowBytes, (y + count) * rowBytes);
      view.set(rows, at.out);
      // The first row drawn is row 0 of the kernel's target, and the first source row its row 0: the map is moved along.
      const row = fromY + y;
      this.kernel.draw(
        at.source,
        source.widthPx,
        bottom - top,
        at.blocks,
        at.weights,
        at.out,
        strip.widthPx,
        0,
        count,
        a,
        b,
        c,
        d,
        e + c * row,
        f + d * row - top,
      );
      rows.set(view.subarray(at.out, at.out + rows.byteLength));
    }
  }

  /** Sees to it that the source rows under some target rows are in the kernel's memory; null where there are none. */
  private hold(widthPx: number, fromY: number, count: number) {
    const { source } = this;
    const { b, d, f } = this.inverse;
    const ends = [0, widthPx].flatMap((x) => [fromY, fromY + count].map((y) => b * x + d * y + f));
    const first = Math.max(0, Math.floor(Math.min(...ends)) - REACH);
    const end = Math.min(source.heightPx, Math.ceil(Math.max(...ends)) + REACH);
    if (end <= first) return null;
    const mostRows = Math.min(
      source.heightPx,
      Math.max(end - first, Math.floor(this.windowBytes / (source.widthPx * 4))),
    );
    const weights = FREE_FROM;
    const blocks = align(weights + WEIGHTS.byteLength);
    const pixels = align(blocks + (source.widthPx >> 4) * (mostRows >> 4));
    // A row of four pixels is read at once: the last one may reach past the picture.
    const room = align(pixels + mostRows * source.widthPx * 4 + 64);
    const held = this.window.top <= first && this.window.bottom >= end;
    // A larger window moves what lies behind it: it is loaded anew.
    const out = held ? this.outAt : room;
    const need = out + CALL_ROWS * widthPx * 4;
    const more = Math.ceil((need - this.memory.buffer.byteLength) / PAGE);
    if (more > 0) this.memory.grow(more);
    if (!held) {
      // Downward as strips are drawn, or upward where the picture stands on its head.
      const top = d >= 0 ? Math.min(first, source.heightPx - mostRows) : Math.max(0, end - mostRows);
      const rows = source.data.subarray(top * source.widthPx * 4, (top + mostRows) * source.widthPx * 4);
      new Int32Array(this.memory.buffer, weights, WEIGHTS.length).set(WEIGHTS);
      new Uint8Array(this.memory.buffer).set(rows, pixels);
      this.kernel.prepare(pixels, source.widthPx, mostRows, blocks);
      this.window = { top, bottom: top + mostRows };
      this.outAt = room;
      this.pixelsAt = pixels;
    }
    return { weights, blocks, source: this.pixelsAt, out: this.outAt };
  }

  private outAt = 0;
  private pixelsAt = 0;
}
