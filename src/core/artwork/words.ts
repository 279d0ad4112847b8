import type { Box } from '../geometry/box';
import type { Gray } from './gray';
import { partsOf, partsRoom, type Part, type PartsRoom } from './parts';

/**
 * Sides of the squares over which light is compared, as shares of the longer side: letters of any size stand out of one of them. What is
 * darker or lighter than its square by `STANDS_OUT` levels is looked at.
 */
const SQUARES = [0.02, 0.06, 0.18] as const;
const STANDS_OUT = 22;
/** Shapes higher than this many sides of a square come out hollow in it. */
const SOLID = 1.2;

/** Height of a letter, as a share of the longer side; and its width and its least ink, as shares of its height and of its box. */
const HEIGHT = [0.009, 0.16] as const;
const WIDTH = [0.08, 1.5] as const;
const MIN_INK = 0.14;
/** Neighbors in a word: how unlike in height, how far apart (of the height), how far their feet may stand off the line. */
const UNLIKE = 1.75;
const GAP = 0.9;
const OFF_LINE = 0.14;
/** Levels between the shades of two neighbors: words are of one color. */
const OTHER_SHADE = 20;
/** Letters of a line at least, and shapes that differ among them: what is the same again and again is a pattern. */
const FEWEST_LETTERS = 4;
const FEWEST_SHAPES = 3;
/** Share of the letters of a line whose feet stand on it: some hang below. */
const ON_LINE = 0.7;
/** Share of the letters of a line that have two strokes side by side, and of their rows or columns. */
const BRANCHED = 0.5;
const DOUBLE = 0.15;
/** Letters that are looked at, and lines that are kept; more are a page of text, or none at all. */
const MAX_LETTERS = 2000;
const MAX_LINES = 24;

/**
 * Lines of words in a picture, as boxes in shares of its width and height: parts of one shade, about as high as one another, side by side on a
 * line, and not all of one shape. Where a picture has more such lines than a design would, none is given.
 */
export function findWords(gray: Gray): Box[] {
  const { widthPx, heightPx } = gray;
  const sums = sumsOf(gray);
  const long = Math.max(widthPx, heightPx);
  let found: Box[] = [];
  const mask = new Uint8Array(widthPx * heightPx);
  const room = partsRoom(mask.length);
  for (const share of SQUARES)
    for (const isDark of [true, false]) {
      standingOut(gray, sums, mask, Math.round(share * long), isDark);
      // What is found again in another square is one line with what was found of it.
      for (const box of linesIn(mask, room, gray, share * long)) {
        const same = found.filter((other) => overlaps(box, other));
        found = [...found.filter((other) => !same.includes(other)), around([box, ...same])];
      }
    }
  if (found.length > MAX_LINES) return [];
  return found.map(({ left, top, right, bottom }) => ({
    left: left / widthPx,
    right: right / widthPx,
    top: top / heightPx,
    bottom: bottom / heightPx,
  }));
}

const around = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map((box) => box.left)),
  right: Math.max(...boxes.map((box) => box.right)),
  top: Math.min(...boxes.map((box) => box.top)),
  bottom: Math.max(...boxes.map((box) => box.bottom)),
});

/** Sums of all levels above and to the left, one row and column larger than the picture. */
function sumsOf({ widthPx, heightPx, levels }: Gray): Uint32Array {
  const stride = widthPx + 1;
  const sums = new Uint32Array(stride * (heightPx + 1));
  for (let y = 0; y < heightPx; y += 1) {
    let row = 0;
    for (let x = 0; x < widthPx; x += 1) {
      row += levels[y * widthPx + x]!;
      sums[(y + 1) * stride + x + 1] = sums[y * stride + x + 1]! + row;
    }
  }
  return sums;
}

/** Where a picture is darker (or lighter) than the mean of the square around a place. */
function standingOut(
  { widthPx, heightPx, levels }: Gray,
  sums: Uint32Array,
  mask: Uint8Array,
  square: number,
  isDark: boolean,
): void {
  const stride = widthPx + 1;
  const half = Math.max(2, square >> 1);
  for (let y = 0; y < heightPx; y += 1) {
    const [top, bottom] = [Math.max(0, y - half), Math.min(heightPx, y + half + 1)];
    for (let x = 0; x < widthPx; x += 1) {
      const [left, right] = [Math.max(0, x - half), Math.min(widthPx, x + half + 1)];
      const sum =
        sums[bottom * stride + right]! -
        sums[top * stride + right]! -
        sums[bottom * stride + left]! +
        sums[top * stride + left]!;
      const above = levels[y * widthPx + x]! - sum / ((right - left) * (bottom - top));
      mask[y * widthPx + x] = (isDark ? above < -STANDS_OUT : above > STANDS_OUT) ? 1 : 0;
    }
  }
}

const widthOf = ({ left, right }: Box): number => right - left;
const heightOf = ({ top, bottom }: Box): number => bottom - top;

/** Parts that could be letters by their size and shape. */
const isLetter = (part: Part, long: number, square: number): boolean => {
  const height = heightOf(part);
  const width = widthOf(part) / height;
  const ink = part.count / (widthOf(part) * height);
  return (
    height >= Math.max(6, HEIGHT[0] * long) &&
    height <= Math.min(HEIGHT[1] * long, SOLID * square) &&
    width >= WIDTH[0] &&
    width <= WIDTH[1] &&
    ink >= MIN_INK
  );
};

interface Letter extends Part {
  /** Its mean level. */
  readonly level: number;
}

function levelOf({ left, top, right, bottom, count }: Part, mask: Uint8Array, { widthPx, levels }: Gray): number {
  let sum = 0;
  for (let y = top; y < bottom; y += 1)
    for (let x = left; x < right; x += 1) if (mask[y * widthPx + x] === 1) sum += levels[y * widthPx + x]!;
  return sum / count;
}

/** Whether two parts can be neighbors in a line, the first at the left. */
function areNeighbors(one: Letter, other: Letter): boolean {
  if (Math.abs(one.level - other.level) > OTHER_SHADE) return false;
  const [a, b] = [heightOf(one), heightOf(other)];
  if (Math.max(a, b) > UNLIKE * Math.min(a, b)) return false;
  const overlap = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
  const gap = other.left - one.right;
  return overlap >= 0.5 * Math.min(a, b) && gap <= GAP * Math.max(a, b) && gap >= -0.2 * Math.min(a, b);
}

function linesIn(mask: Uint8Array, room: PartsRoom, gray: Gray, square: number): Box[] {
  const { widthPx, heightPx } = gray;
  const long = Math.max(widthPx, heightPx);
  const letters = partsOf(mask, widthPx, room)
    .filter((part) => isLetter(part, long, square))
    .map((part) => ({ ...part, level: levelOf(part, mask, gray) }))
    .toSorted((a, b) => a.left - b.left);
  // So many are a texture; each would be held against all lines.
  if (letters.length > MAX_LETTERS) return [];
  const lines: Letter[][] = [];
  for (const letter of letters) {
    // Of the lines that end before it, the one that ends nearest.
    const near = lines
      .filter((line) => areNeighbors(line.at(-1)!, letter))
      .toSorted((a, b) => b.at(-1)!.right - a.at(-1)!.right)[0];
    if (near) near.push(letter);
    else lines.push([letter]);
  }
  return lines
    .filter(
      (line) => isLine(line) && line.filter((part) => isBranched(part, mask, widthPx)).length >= BRANCHED * line.length,
    )
    .map(around);
}

/** Whether a part has two strokes side by side, or over one another, in some of its rows or columns: most letters have, and bars and flags have not. */
function isBranched({ left, top, right, bottom }: Part, mask: Uint8Array, widthPx: number): boolean {
  const isDouble = (length: number, at: (i: number) => number): boolean => {
    let strokes = 0;
    for (let i = 0; i < length; i += 1) if (mask[at(i)] === 1 && (i === 0 || mask[at(i - 1)] !== 1)) strokes += 1;
    return strokes >= 2;
  };
  let [rows, columns] = [0, 0];
  for (let y = top; y < bottom; y += 1) if (isDouble(right - left, (i) => y * widthPx + left + i)) rows += 1;
  for (let x = left; x < right; x += 1) if (isDouble(bottom - top, (i) => (top + i) * widthPx + x)) columns += 1;
  return rows >= DOUBLE * (bottom - top) || columns >= DOUBLE * (right - left);
}

function isLine(line: readonly Part[]): boolean {
  if (line.length < FEWEST_LETTERS) return false;
  const heights = line.map(heightOf).toSorted((a, b) => a - b);
  const height = heights[heights.length >> 1]!;
  const feet = line.map((part) => part.bottom);
  const foot = feet.toSorted((a, b) => a - b)[feet.length >> 1]!;
  if (feet.filter((own) => Math.abs(own - foot) <= OFF_LINE * height).length < ON_LINE * line.length) return false;
  const shapes = new Set(
    line.map((part) => {
      const width = Math.round((widthOf(part) / heightOf(part)) * 5);
      const ink = Math.round((part.count / (widthOf(part) * heightOf(part))) * 8);
      return `${width} ${ink}`;
    }),
  );
  return shapes.size >= Math.max(FEWEST_SHAPES, line.length * 0.3);
}

const overlaps = (one: Box, other: Box): boolean =>
  Math.min(one.right, other.right) > Math.max(one.left, other.left) &&
  Math.min(one.bottom, other.bottom) > Math.max(one.top, other.top);
