import type { Box } from '../geometry/box';

/** A connected part of a mask: its box in pixels, right and bottom exclusive, and how many pixels it has. */
export interface Part extends Box {
  readonly count: number;
}

/** What looking for parts writes into: whoever looks at many masks of one size brings it along. */
export interface PartsRoom {
  readonly seen: Uint8Array;
  readonly stack: Int32Array;
}

export const partsRoom = (count: number): PartsRoom => ({ seen: new Uint8Array(count), stack: new Int32Array(count) });

/** The parts of a mask, neighbors by side or corner, in order of their first pixel. */
export function partsOf(mask: Uint8Array, widthPx: number, { seen, stack }: PartsRoom): Part[] {
  seen.fill(0);
  const parts: Part[] = [];
  for (let first = 0; first < mask.length; first += 1) {
    if (mask[first] !== 1 || seen[first] === 1) continue;
    let [left, right, top, bottom, count] = [widthPx, 0, Infinity, 0, 0];
    let end = 1;
    stack[0] = first;
    seen[first] = 1;
    while (end > 0) {
      end -= 1;
      const p = stack[end]!;
      const x = p % widthPx;
      const y = (p - x) / widthPx;
      count += 1;
      left = Math.min(left, x);
      right = Math.max(right, x + 1);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y + 1);
      for (let dy = -1; dy <= 1; dy += 1)
        for (let dx = -1; dx <= 1; dx += 1) {
          const q = p + dy * widthPx + dx;
          if (x + dx < 0 || x + dx >= widthPx || q < 0 || q >= mask.length || mask[q] !== 1 || seen[q] === 1) continue;
          seen[q] = 1;
          stack[end] = q;
          end += 1;
        }
    }
    parts.push({ left, right, top, bottom, count });
  }
  return parts;
}
