/** A picture in one channel, 0 to 255, rows from the top. */
export interface Gray {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: Uint8Array;
}

/** Levels that ink has at most where there is transparency: what is clear is white, and all ink is told from it. */
const INK_MOST = 127;

/** Straight RGBA as gray: Rec. 601 luma; where anything is transparent, ink is dark on white whatever its color. */
export function grayOf(widthPx: number, heightPx: number, rgba: Uint8Array): Gray {
  const levels = new Uint8Array(widthPx * heightPx);
  let isClear = false;
  for (let i = 3; i < rgba.length && !isClear; i += 4) isClear = rgba[i]! < 128;
  for (let p = 0, i = 0; p < levels.length; p += 1, i += 4) {
    const light = 0.299 * rgba[i]! + 0.587 * rgba[i + 1]! + 0.114 * rgba[i + 2]!;
    const alpha = rgba[i + 3]! / 255;
    levels[p] = Math.round(isClear ? (light * INK_MOST * alpha) / 255 + 255 * (1 - alpha) : light);
  }
  return { widthPx, heightPx, levels };
}
