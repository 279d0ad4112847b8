import type { Gray } from './gray';

/** Pixels of a piece of a row or column whose spectrum is taken, and how far apart they begin. */
const PIECE = 64;
const APART = 32;
/** A piece says something of sharpness where its levels range so far, and step so much at once. */
const MIN_RANGE = 60;
const MIN_STEP = 8;
/** Share of such pieces, the sharpest, that speak for the picture, and the fewest that do. */
const SHARPEST = 0.05;
const FEWEST = 24;
/** Bins from which the strength of the edges is taken: low enough that no enlarging has touched them. */
const LOW = [2, 5] as const;
/** A share from which on down half the picture is looked at. */
const COARSE = 0.3;
/** Power at which half the contrast of an edge is left. */
const HALF = 0.25;

/** Cosines and sines of one period, and the Hann window. */
const wave = Array.from({ length: PIECE }, (_, i) => (2 * Math.PI * i) / PIECE);
const cosine = Float64Array.from(wave, Math.cos);
const sine = Float64Array.from(wave, Math.sin);
const hann = Float64Array.from(wave, (angle) => 0.5 - 0.5 * Math.cos(angle));

/**
 * Share of its pixels' density that the detail of a picture has, 0 to 1: the frequency at which the spectrum of its sharpest edges has fallen to
 * half the contrast of a step that falls from one pixel to the next (whose power is C ÷ 4 sin²(πf)), over the highest that its pixels could hold. A picture
 * that was enlarged twofold has about one half. Null where no place has contrast enough to tell.
 */
export function detailShare(gray: Gray): number | null {
  const share = shareOf(gray);
  // So far down the bins are coarse: half the picture tells it finer.
  if (share === null || share > COARSE || Math.min(gray.widthPx, gray.heightPx) < 4 * PIECE) return share;
  const half = detailShare(halved(gray));
  return half === null ? share : half / 2;
}

/** Every other pixel of every other row, each the mean of the four that it stands for. */
function halved({ widthPx, heightPx, levels }: Gray): Gray {
  const [width, height] = [widthPx >> 1, heightPx >> 1];
  const half = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const at = 2 * y * widthPx + 2 * x;
      const sum = levels[at]! + levels[at + 1]! + levels[at + widthPx]! + levels[at + widthPx + 1]!;
      half[y * width + x] = (sum + 2) >> 2;
    }
  return { widthPx: width, heightPx: height, levels: half };
}

function shareOf(gray: Gray): number | null {
  const pieces = sharpPieces(gray);
  if (pieces.length === 0) return null;
  const power = new Float64Array(PIECE / 2 + 1);
  for (const piece of pieces) addPower(power, piece);
  const flat = power.map((value, bin) => value * 4 * Math.sin((Math.PI * bin) / PIECE) ** 2);
  let low = 0;
  for (let bin = LOW[0]; bin <= LOW[1]; bin += 1) low += flat[bin]! / (LOW[1] - LOW[0] + 1);
  for (let bin = LOW[1]; bin < flat.length; bin += 1)
    // A dip between two peaks is no end: the bins beyond it have to be low as well.
    if (flat.slice(bin, bin + 4).every((value) => value < HALF * low)) return (bin * 2) / PIECE;
  return 1;
}

/** A piece of a row or column: where it begins, how far its pixels are apart, and its steepest step over its range. */
interface Piece {
  readonly start: number;
  readonly step: number;
  readonly sharp: number;
}

/** The pieces of rows and columns that hold the sharpest edges of a picture. */
function sharpPieces({ widthPx, heightPx, levels }: Gray): Float64Array[] {
  const found: Piece[] = [];
  const take = (start: number, step: number) => {
    let [least, most, steepest] = [255, 0, 0];
    for (let i = 0; i < PIECE; i += 1) {
      const level = levels[start + i * step]!;
      least = Math.min(least, level);
      most = Math.max(most, level);
      if (i > 0) steepest = Math.max(steepest, Math.abs(level - levels[start + (i - 1) * step]!));
    }
    if (most - least < MIN_RANGE || steepest < MIN_STEP) return;
    found.push({ start, step, sharp: steepest / (most - least) });
  };
  // Every line of a small picture; of a large one as many as say enough.
  const every = (lines: number) => Math.max(1, Math.floor(lines / 400));
  for (let y = 0; y < heightPx; y += every(heightPx))
    for (let x = 0; x + PIECE <= widthPx; x += APART) take(y * widthPx + x, 1);
  for (let x = 0; x < widthPx; x += every(widthPx))
    for (let y = 0; y + PIECE <= heightPx; y += APART) take(y * widthPx + x, widthPx);
  found.sort((a, b) => b.sharp - a.sharp);
  // The levels of the few that speak are copied, not those of all.
  return found
    .slice(0, Math.max(FEWEST, Math.ceil(found.length * SHARPEST)))
    .map(({ start, step }) => Float64Array.from({ length: PIECE }, (_, i) => levels[start + i * step]!));
}

/** Adds the power spectrum of a piece; its mean is taken off, and its ends are faded. */
function addPower(power: Float64Array, levels: Float64Array): void {
  const mean = levels.reduce((sum, level) => sum + level, 0) / PIECE;
  for (let bin = 1; bin < power.length; bin += 1) {
    let [re, im] = [0, 0];
    for (let i = 0; i < PIECE; i += 1) {
      const value = (levels[i]! - mean) * hann[i]!;
      const at = (i * bin) % PIECE;
      re += value * cosine[at]!;
      im -= value * sine[at]!;
    }
    power[bin]! += re * re + im * im;
  }
}
