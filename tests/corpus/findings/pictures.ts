import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { alphaBounds } from '../../../src/core/artwork/analysis';
import { readPixelFacts } from '../../../src/core/artwork/pixel-facts';
import { grayOf } from '../../../src/core/artwork/gray';
import { findWords } from '../../../src/core/artwork/words';
import type { ArtworkSize } from '../../../src/core/findings/finding';
import type { Lettering } from '../../../src/core/lettering/text';
import { svgPath } from '../../../src/core/paths/path';
import { ingestFile } from '../../../src/server/images/ingest';
import { reduced, withHairlines } from '../../../src/server/images/look-closely';
import { setLettering } from '../../../src/server/lettering/fonts';

/** Longer sides of the pictures that are looked at, as when an artwork is taken in. */
const [LOOKED_PX, WORDS_PX] = [600, 1000];

/** A picture that is looked at once it is needed. */
export type Picture = () => Promise<ArtworkSize>;

const known = new Map<string, Promise<ArtworkSize>>();

/** A drawing: SVG inside a viewBox of 1000 × `height`. The same drawing is looked at once. */
export function picture(body: string, { height = 1000, px = 8000 } = {}): Picture {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 ${height}" width="1000" height="${height}">${body}</svg>`;
  return () => {
    const key = `${px} ${svg}`;
    let made = known.get(key);
    if (!made) known.set(key, (made = look(svg, height, px)));
    return made;
  };
}

async function look(svg: string, height: number, px: number): Promise<ArtworkSize> {
  const draw = (longPx: number) => {
    const scale = longPx / Math.max(1000, height);
    return sharp(Buffer.from(svg), { density: 96 * scale }).resize(
      Math.round(1000 * scale),
      Math.round(height * scale),
      { fit: 'fill' },
    );
  };
  const { data, info } = await draw(LOOKED_PX).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const pixels = { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
  const looks = await readPixelFacts(pixels, reduced);
  const bounds = alphaBounds(pixels);
  const close = await draw(WORDS_PX).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    vector: false,
    widthPx: px,
    heightPx: Math.round((px * height) / 1000),
    ...(await withHairlines(looks, { at: draw, sizePx: { width: 1000, height, any: true } }, true)),
    words: findWords(grayOf(close.info.width, close.info.height, close.data)),
    visible: bounds && {
      left: bounds.left / info.width,
      top: bounds.top / info.height,
      right: bounds.right / info.width,
      bottom: bounds.bottom / info.height,
    },
  };
}

/** A disc that fills its square. */
export const disc = (hex: string) => picture(`<circle cx="500" cy="500" r="500" fill="${hex}"/>`);
/** A badge of three colors that fills its square. */
export const badge = (a = '#182a4a', b = '#f3ead6', c = '#d2342a') =>
  picture(
    `<circle cx="500" cy="500" r="500" fill="${a}"/><circle cx="500" cy="500" r="340" fill="${b}"/><rect x="330" y="330" width="340" height="340" fill="${c}"/>`,
  );
/** A picture that covers its sheet: a landscape of broad bands. */
export const landscape = (height = 667) =>
  picture(
    `<rect width="1000" height="${height}" fill="#7fb0d0"/><path d="M0 ${height * 0.5}L300 ${height * 0.25}L700 ${height * 0.55}L1000 ${height * 0.3}V${height}H0Z" fill="#3f6b4a"/><path d="M0 ${height * 0.75}H1000V${height}H0Z" fill="#c9a05a"/><circle cx="780" cy="${height * 0.2}" r="70" fill="#f4d38a"/>`,
    { height },
  );
/** Straight lines of a width, as a share of the side; a few, far apart. */
export const lines = (share: number, hex = '#182a4a') =>
  picture(
    [100, 260, 420, 580, 740, 900]
      .map((y) => `<rect x="0" y="${y - share * 500}" width="1000" height="${share * 1000}" fill="${hex}"/>`)
      .join('') +
      `<rect width="1" height="1" fill="${hex}"/><rect x="999" y="999" width="1" height="1" fill="${hex}"/>`,
  );

/** A file as it is taken in: looked at by all that looks at an upload. The same name is looked at once. */
export function file(name: string, make: () => Promise<Buffer>): Picture {
  return () => {
    let made = known.get(name);
    if (!made) known.set(name, (made = takeIn(make)));
    return made;
  };
}

async function takeIn(make: () => Promise<Buffer>): Promise<ArtworkSize> {
  const room = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-corpus-'));
  try {
    await fs.writeFile(path.join(room, 'input'), await make());
    return (await ingestFile(path.join(room, 'input'), room)).facts;
  } finally {
    await fs.rm(room, { recursive: true, force: true });
  }
}

/** A square picture with much in it, like a photograph: ellipses of all colors and sizes, the same for the same seed. */
export async function busy(px: number, seed = 7): Promise<Buffer> {
  let state = seed;
  const next = () => (state = (state * 1664525 + 1013904223) >>> 0) / 2 ** 32;
  const ellipses = Array.from({ length: 200 }, () => {
    const [x, y, a, b] = [next() * 1000, next() * 1000, 4 + next() ** 2 * 120, 4 + next() ** 2 * 120];
    const color = [0, 0, 0].map(() => Math.floor(next() * 255)).join(',');
    return `<ellipse cx="${x}" cy="${y}" rx="${a}" ry="${b}" fill="rgb(${color})" fill-opacity="0.8"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" width="1000" height="1000"><rect width="1000" height="1000" fill="#8a9aa0"/>${ellipses.join('')}</svg>`;
  return sharp(Buffer.from(svg), { density: (96 * px) / 1000 })
    .resize(px, px)
    .removeAlpha()
    .png()
    .toBuffer();
}

const SET: Lettering = {
  text: '',
  family: 'noto-sans',
  style: 'regular',
  sizeMm: 40,
  align: 'left',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#ffffff',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 900,
  boxHeightMm: 60,
  shrinkToMm: null,
  wrap: true,
};

/** A text as outlines in a drawing, its lowest point at `bottom`, its left end at `left`. */
export async function outlined(over: Partial<Lettering>, left: number, bottom: number): Promise<string> {
  const { inks, bounds } = await setLettering({ ...SET, ...over });
  const shift = `translate(${left - bounds!.left} ${bottom - bounds!.bottom})`;
  return inks.map((ink) => `<path transform="${shift}" d="${svgPath(ink.path)}" fill="${ink.color}"/>`).join('');
}
