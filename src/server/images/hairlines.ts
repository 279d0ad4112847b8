import type { Sharp } from 'sharp';
import { parseHex } from '@/core/artwork/color';
import { hairInk } from '@/core/artwork/hairlines';
import type { Alpha, ThinInk } from '@/core/artwork/strokes';

/** A picture that can be drawn at a size. */
export interface Drawing {
  /** Its longer side in px; one of pixels no larger than it is. */
  readonly at: (longPx: number) => Sharp;
  /** Its own size, and whether it can be drawn at any. */
  readonly sizePx: { readonly width: number; readonly height: number; readonly any: boolean };
}

/** Longer side of the picture in which hairlines are looked for, and of the one in which their colors are. */
const FINE_PX = 2400;
const COLOR_PX = 4800;
/** Pixels across a strip of it. */
const STRIP_PX = 96;
/** Distance in RGB under which a color is that of the ground, and the alpha under which there is none. */
const GROUND = 24;
const CLEAR = 8;
/** Directions that are told apart, along each of red, green and blue. */
const DIRECTIONS = 7;

/** How much of a picture is thinner than the finest widths: of all that is there, or of what stands on a flat ground of one color. */
export async function hairlines(drawing: Drawing, ground: string | null): Promise<ThinInk[]> {
  return hairInk(ground === null ? await alphaOf(drawing.at(FINE_PX)) : await inkOn(drawing, ground));
}

async function alphaOf(image: Sharp): Promise<Alpha> {
  const { data, info } = await image.ensureAlpha().extractChannel(3).raw().toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, alpha: data };
}

/** The farthest color from a ground in each direction, as far as it was looked for. */
class Inks {
  private readonly farthest = new Float64Array(DIRECTIONS ** 3);
  /** Of the pixel that was read last. */
  length = 0;
  private bin = 0;

  constructor(private readonly ground: readonly [number, number, number]) {}

  /** Reads a pixel of straight RGBA; false where it is of the ground, or clear. */
  read(data: Uint8Array, i: number): boolean {
    const x = data[i]! - this.ground[0];
    const y = data[i + 1]! - this.ground[1];
    const z = data[i + 2]! - this.ground[2];
    const length = Math.sqrt(x * x + y * y + z * z);
    if (length < GROUND || data[i + 3]! < CLEAR) return false;
    const part = (value: number) => Math.round((value / length + 1) * ((DIRECTIONS - 1) / 2));
    this.bin = (part(x) * DIRECTIONS + part(y)) * DIRECTIONS + part(z);
    this.length = length;
    return true;
  }

  learn(data: Uint8Array): void {
    for (let i = 0; i < data.length; i += 4)
      if (this.read(data, i) && this.length > this.farthest[this.bin]!) this.farthest[this.bin] = this.length;
  }

  /** A direction at the edge of two may be told as either: each knows what those beside it know. */
  settle(): void {
    const known = this.farthest.slice();
    const beside = [-1, 0, 1];
    for (let x = 0; x < DIRECTIONS; x += 1)
      for (let y = 0; y < DIRECTIONS; y += 1)
        for (let z = 0; z < DIRECTIONS; z += 1) {
          let most = 0;
          for (const dx of beside)
            for (const dy of beside)
              for (const dz of beside) {
                const [u, v, w] = [x + dx, y + dy, z + dz];
                if (Math.min(u, v, w) < 0 || Math.max(u, v, w) >= DIRECTIONS) continue;
                most = Math.max(most, known[(u * DIRECTIONS + v) * DIRECTIONS + w]!);
              }
          this.farthest[(x * DIRECTIONS + y) * DIRECTIONS + z] = most;
        }
  }

  /** How much of the pixel that was read last is ink, 0 to 255. */
  get alpha(): number {
    return Math.round((255 * this.length) / this.farthest[this.bin]!);
  }
}

/**
 * What differs from a ground, as alpha: how far a color is from it, of the farthest that there is in its direction. So a pixel that a dark line covers by half is half
 * ink, and a pale color by itself is all ink. What color a hairline has is seen where it is drawn larger: along a strip down and one across. Clear places are none.
 */
async function inkOn(drawing: Drawing, ground: string): Promise<Alpha> {
  const { data, info } = await drawing.at(FINE_PX).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const inks = new Inks(parseHex(ground));
  inks.learn(data);
  for (const strip of await strips(drawing)) inks.learn(strip);
  inks.settle();
  const alpha = new Uint8Array(info.width * info.height);
  for (let p = 0; p < alpha.length; p += 1) if (inks.read(data, 4 * p)) alpha[p] = inks.alpha;
  return { widthPx: info.width, heightPx: info.height, alpha };
}

/** A strip down and one across the middle of a picture, drawn larger; only these are drawn. */
async function strips({ at, sizePx }: Drawing): Promise<Buffer[]> {
  const wanted = COLOR_PX / Math.max(sizePx.width, sizePx.height);
  const grown = sizePx.any ? wanted : Math.min(1, wanted);
  // A pixel less than there is: sides are rounded when it is drawn.
  const [width, height] = [sizePx.width, sizePx.height].map((side) => Math.max(1, Math.floor(side * grown) - 1)) as [
    number,
    number,
  ];
  const [across, down] = [Math.min(STRIP_PX, width), Math.min(STRIP_PX, height)];
  return Promise.all(
    [
      { left: (width - across) >> 1, top: 0, width: across, height },
      { left: 0, top: (height - down) >> 1, width, height: down },
    ].map((strip) => at(COLOR_PX).extract(strip).ensureAlpha().raw().toBuffer()),
  );
}
