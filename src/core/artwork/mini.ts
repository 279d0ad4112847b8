import type { Pixels } from './analysis';

/** Longer side of a mini: enough to know what lies where on a good, and little enough to go with every artwork. */
const MINI_PX = 24;

/** A picture of some hundred pixels as text: `24x16:` and its straight RGBA in base64. */
export function miniOf({ widthPx, heightPx, rgba }: Pixels): string {
  const scale = Math.min(1, MINI_PX / Math.max(widthPx, heightPx));
  const [width, height] = [Math.max(1, Math.round(widthPx * scale)), Math.max(1, Math.round(heightPx * scale))];
  let bytes = '';
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const sum = [0, 0, 0, 0];
      let count = 0;
      const [left, right] = span(x, width, widthPx);
      const [top, bottom] = span(y, height, heightPx);
      for (let v = top; v < bottom; v += 1)
        for (let u = left; u < right; u += 1) {
          const at = 4 * (v * widthPx + u);
          const alpha = rgba[at + 3]!;
          for (let c = 0; c < 3; c += 1) sum[c]! += rgba[at + c]! * alpha;
          sum[3]! += alpha;
          count += 1;
        }
      const alphas = sum[3]!;
      for (let c = 0; c < 3; c += 1) bytes += String.fromCharCode(alphas === 0 ? 0 : Math.round(sum[c]! / alphas));
      bytes += String.fromCharCode(Math.round(alphas / count));
    }
  return `${width}x${height}:${btoa(bytes)}`;
}

/** The source pixels of one pixel of a mini; at least one. */
function span(at: number, of: number, all: number): readonly [from: number, to: number] {
  const from = Math.floor((at * all) / of);
  return [from, Math.max(from + 1, Math.floor(((at + 1) * all) / of))];
}

const read = new Map<string, Pixels | null>();
const MAX_READ = 500;

/** The pixels of a mini; null for what is none. Kept: the same artworks are looked at on every change. */
export function readMini(text: string): Pixels | null {
  const known = read.get(text);
  if (known !== undefined) return known;
  const parts = /^(\d{1,3})x(\d{1,3}):([A-Za-z0-9+/=]+)$/.exec(text);
  const made = parts && toPixels(Number(parts[1]), Number(parts[2]), parts[3]!);
  if (read.size >= MAX_READ) read.clear();
  read.set(text, made);
  return made;
}

function toPixels(widthPx: number, heightPx: number, base64: string): Pixels | null {
  const bytes = atob(base64);
  if (bytes.length !== 4 * widthPx * heightPx) return null;
  return { widthPx, heightPx, rgba: Uint8Array.from(bytes, (letter) => letter.charCodeAt(0)) };
}
