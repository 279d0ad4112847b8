import { designColors, sewnPixels } from '../embroidery/colors';
import type { Box } from '../geometry/box';
import { premultiply } from '../print/pixels';
import { alphaBounds, mainColors, type MainColor, type Pixels } from './analysis';
import { takeBackground } from './background';
import { formatHex } from './color';
import { flatBox, flatGround } from './flat-box';
import { halfTransparentShare } from './half-transparent';
import { likenessHash } from './likeness';
import { miniOf } from './mini';
import { thinInk, type ThinInk } from './strokes';

/** What the pixels of an artwork say to the checks. */
export interface PixelFacts {
  readonly mainColors: readonly MainColor[];
  /** 16 hexadecimal digits by which the same picture is known again. */
  readonly likeness: string;
  /** The one color that runs around it, however little stands on it; null where there is none. */
  readonly ground: string | null;
  /** The one color that runs around it like a box; null where there is none. */
  readonly flatBox: string | null;
  /** What is left when that is taken away; null where there is no box. */
  readonly unboxed:
    (Pick<PixelFacts, 'mainColors' | 'thinInk' | 'halfTransparent' | 'mini'> & { readonly visible: Box | null }) | null;
  /** Share of what is seen that is half transparent, soft edges aside. */
  readonly halfTransparent: number;
  readonly thinInk: readonly ThinInk[];
  /** What lies where on it, coarsely: see `mini.ts`. */
  readonly mini: string;
  /** Its colors as threads would have to tell them apart, the largest first; more than there are threads. */
  readonly threadColors: readonly MainColor[];
}

/** Reduces a picture to about 128 px: from outside, since platforms have it faster than we. */
export type Reduce = (pixels: Pixels) => Promise<Pixels>;

/** Looks at a picture of some hundred pixels, and for colors and likeness at the same reduced. */
export async function readPixelFacts(pixels: Pixels, reduce: Reduce): Promise<PixelFacts> {
  const tiny = await reduce(pixels);
  const box = flatBox(pixels);
  return {
    mainColors: mainColors(tiny),
    likeness: likenessHash(tiny),
    ground: flatGround(pixels),
    flatBox: box,
    unboxed: box === null ? null : await withoutBox(pixels, box, reduce),
    halfTransparent: halfTransparentShare(pixels),
    thinInk: thinInk(pixels),
    mini: miniOf(tiny),
    threadColors: threadColors(pixels),
  };
}

/** Most colors that are kept of those that threads would have to tell apart. */
const MAX_COLORS = 24;

function threadColors({ widthPx, heightPx, rgba }: Pixels): MainColor[] {
  const data = new Uint8Array(rgba);
  premultiply(data);
  const pixels = sewnPixels({ widthPx, heightPx, data });
  return designColors(pixels)
    .slice(0, MAX_COLORS)
    .map(({ rgb, count }) => ({ hex: formatHex(rgb), share: count / pixels.count }));
}

async function withoutBox(
  { widthPx, heightPx, rgba }: Pixels,
  box: string,
  reduce: Reduce,
): Promise<PixelFacts['unboxed']> {
  const bare = { widthPx, heightPx, rgba: rgba.slice() };
  takeBackground(bare, box);
  const bounds = alphaBounds(bare);
  const tiny = await reduce(bare);
  return {
    mainColors: mainColors(tiny),
    mini: miniOf(tiny),
    thinInk: thinInk(bare),
    halfTransparent: halfTransparentShare(bare),
    visible: bounds && {
      left: bounds.left / widthPx,
      right: bounds.right / widthPx,
      top: bounds.top / heightPx,
      bottom: bounds.bottom / heightPx,
    },
  };
}
