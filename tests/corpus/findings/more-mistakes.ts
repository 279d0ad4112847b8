import * as fontkit from 'fontkit';
import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { COMPARED_PX, isSamePicture } from '../../../src/core/artwork/same-picture';
import { canBeTwins } from '../../../src/core/findings/twin';
import type { Design } from './designs';
import type { Good } from './goods';
import { busy, disc, file, landscape, outlined, picture, type Picture } from './pictures';

/** Mistakes that lie in the file, in words inside it, and in letters; what must be said is written down as in `mistakes.ts`. */

const POSTER: Good = { technique: 'giclee', widthMm: 300, heightMm: 200, bleedMm: 3 };
const CLOTH: Good = { technique: 'direct-to-garment', colors: ['#f3ead6'] };
const sweep = (from: number, to: number, count = 20): number[] =>
  Array.from({ length: count }, (_, i) => from + (to - from) * (i / (count - 1)) ** 2);
const round = (value: number) => Math.round(value * 100) / 100;
type Make = () => Design[];

const FILE_PX = 1200;
/** The busy picture as a JPEG. */
const coded = (quality: number) =>
  file(`jpeg ${quality}`, async () =>
    sharp(await busy(FILE_PX))
      .jpeg({ quality })
      .toBuffer(),
  );

/** Blocks of 8 px show where they were coded coarsely (quality 25 and less) and print half a millimeter or larger. */
export const blocks: Make = () => {
  const design = (quality: number, blockMm: number): Design => ({
    kind: 'blocks',
    name: `quality ${quality}, blocks of ${round(blockMm)} mm`,
    good: { ...CLOTH, widthMm: 600, heightMm: 600 },
    layers: [{ art: coded(quality), x: 300, y: 300, w: (blockMm / 8) * FILE_PX }],
    must: quality <= 25 && blockMm >= 0.5 ? ['blocks'] : [],
    // Large blocks are few pixels as well.
    may: ['resolution', 'enlarged'],
  });
  return [
    ...[4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24].map((quality) => design(quality, 0.9)),
    ...sweep(0.52, 2, 10).map((mm) => design(10, mm)),
    ...[35, 40, 45, 50, 60, 70, 75, 80, 85, 90, 95].map((quality) => design(quality, 0.9)),
    ...sweep(0.48, 0.2, 10).map((mm) => design(10, mm)),
  ];
};

/** What was enlarged before it came has the detail of the small picture: under two thirds of the density wanted it looks soft. */
export const enlarged: Make = () => {
  const kernels = ['linear', 'cubic', 'lanczos3', 'mitchell'] as const;
  const art = (times: number, i: number) =>
    file(`enlarged ${times} ${i}`, async () => {
      const small = await sharp(await busy(FILE_PX, 7 + i))
        .resize(Math.round(FILE_PX / times))
        .toBuffer();
      return sharp(small)
        .resize(FILE_PX, FILE_PX, { kernel: kernels[i % 4]! })
        .png()
        .toBuffer();
    });
  const design = (times: number, dpi: number, i: number, isSoft: boolean): Design => ({
    kind: 'enlarged',
    name: `enlarged ${round(times)} times, ${dpi} DPI`,
    good: { ...CLOTH, widthMm: 600, heightMm: 600 },
    layers: [{ art: art(times, i), x: 300, y: 300, w: (FILE_PX / dpi) * 25.4 }],
    must: isSoft ? ['enlarged'] : [],
  });
  return [
    ...sweep(2, 5).map((times, i) => design(times, 240, i, true)),
    // As it came from its camera; and enlarged, but printed so small that it does not matter.
    ...Array.from({ length: 10 }, (_, i) => design(1, 240 + 10 * i, i, false)),
    ...Array.from({ length: 10 }, (_, i) => design(2, 700 + 40 * i, i, false)),
  ];
};

const LINES = ['EBB & FLOOD', 'River Regatta', 'est. 1987', 'Brackwater Rowing', 'OPEN AT DAWN'];
const FACES = ['noto-sans', 'montserrat', 'zilla-slab', 'josefin-sans'];

/** Words inside a picture keep away from the knife as letters do: 5 mm here. */
export const wordsInside: Make = () => {
  const scene = landscapeBody();
  const art = (bottomUnit: number, i: number): Picture => {
    let made: Picture | null = null;
    return async () => {
      const over = {
        text: LINES[i % 5]!,
        family: FACES[i % 4]!,
        sizeMm: 34 + (i % 3) * 8,
        fill: i % 2 ? '#ffffff' : '#1a1c20',
      };
      made ??= picture(scene + (await outlined(over, 120, bottomUnit)), { height: 667 });
      return made();
    };
  };
  // The picture covers the sheet of 306 × 206: 309 mm wide and 206 high, so that 1,000 units are 309 mm; the trim lies 3 mm inside its lower edge.
  const unit = 1000 / 309;
  const design = (gapMm: number, i: number, must: readonly string[]): Design => ({
    kind: 'words',
    name: `${LINES[i % 5]} ${round(gapMm)} mm inside the trim`,
    good: POSTER,
    layers: [{ art: art(667 - (3 + gapMm) * unit, i), x: 150, y: 100, w: 309 }],
    must,
  });
  return [
    ...sweep(4.4, 0.4, 12).map((gap, i) => design(gap, i, ['words'])),
    ...sweep(-0.4, -2.4, 10).map((gap, i) => design(gap, i, ['words'])),
    ...sweep(5.8, 80, 20).map((gap, i) => design(gap, i, [])),
  ];
};

const landscapeBody = (): string =>
  '<rect width="1000" height="667" fill="#7fb0d0"/><path d="M0 333L300 167L700 367L1000 200V667H0Z" fill="#5f8f6a"/><circle cx="780" cy="133" r="70" fill="#f4d38a"/>';

/** Dye on a good of a strong color changes what is drawn; on a white or nearly white one it does not. */
export const dyed: Make = () => {
  const strong = [
    '#2a8c8c',
    '#3f7fb0',
    '#b5533c',
    '#d9a62e',
    '#6b8f4a',
    '#c46a8a',
    '#7a6aa8',
    '#8a6b4a',
    '#4f9f7f',
    '#b08a2e',
  ];
  const pale = [
    '#ffffff',
    '#fdfdfd',
    '#fbfbfb',
    '#fafaf7',
    '#f8f8f8',
    '#fcfcfa',
    '#f7f9fb',
    '#fafafa',
    '#fefcfa',
    '#f9f9f5',
  ];
  const arts = [landscape(), landscape(1000)];
  const design = (good: string, i: number, isStrong: boolean): Design => ({
    kind: 'dyed',
    name: `a landscape dyed on ${good}`,
    good: { technique: 'sublimation', colors: i < 10 ? [good] : ['#ffffff', good] },
    layers: [{ art: arts[i % 2]!, x: 150, y: 200, w: 200 }],
    must: isStrong ? ['dyed'] : [],
  });
  return [
    ...[...strong, ...strong].map((good, i) => design(good, i, true)),
    ...[...pale, ...pale].map((good, i) => design(good, i, false)),
  ];
};

/** Letters on an ornament are seen against the ornament. */
export const onOrnament: Make = () => {
  const designs: Design[] = [];
  const pairs = [
    ['#182a4a', '#1f3358', true],
    ['#182a4a', '#f3ead6', false],
    ['#f3ead6', '#f7f0e0', true],
    ['#f3ead6', '#182a4a', false],
    ['#d2342a', '#c93a30', true],
    ['#d2342a', '#ffffff', false],
    ['#1f4d38', '#24523d', true],
    ['#1f4d38', '#f6b73c', false],
  ] as const;
  for (const ornament of ['badge-disc', 'badge-hexagon', 'badge-cog', 'badge-shield', 'badge-scalloped'])
    for (const [ground, ink, isLost] of pairs)
      designs.push({
        kind: 'on an ornament',
        name: `${ink} on a ${ornament} in ${ground}`,
        good: { technique: 'direct-to-garment', colors: ['#9cc7e6'] },
        layers: [
          { ornament, color: ground, x: 150, y: 200, w: 160 },
          { text: { text: 'EBB', fill: ink, sizeMm: 20, boxHeightMm: 26 }, x: 150, y: 200, w: 60 },
        ],
        must: isLost ? ['contrast'] : [],
      });
  return designs;
};

/** A picture over a picture in nearly its color is lost on it. */
export const pictureOver: Make = () => {
  const grounds = [
    '#2d4a53',
    '#7e2a33',
    '#3f6b4a',
    '#d9a62e',
    '#182a4a',
    '#c9a05a',
    '#5a4632',
    '#9cc7e6',
    '#6f1f2b',
    '#1f4d38',
  ];
  const shift = (hex: string, by: number) =>
    `#${[1, 3, 5]
      .map((at) =>
        Math.max(0, Math.min(255, Number.parseInt(hex.slice(at, at + 2), 16) + by))
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`;
  const design = (ground: string, ink: string, isLost: boolean): Design => ({
    kind: 'picture over picture',
    name: `${ink} over ${ground}`,
    good: { technique: 'direct-to-garment', colors: ['#ffffff'] },
    layers: [
      { art: disc(ground), x: 150, y: 200, w: 220 },
      { art: disc(ink), x: 150, y: 200, w: 80 },
    ],
    must: isLost ? ['contrast'] : [],
  });
  return grounds.flatMap((ground) => [
    design(ground, shift(ground, 4), true),
    design(ground, shift(ground, -4), true),
    design(ground, '#ffffff', false),
    design(
      ground,
      ground === '#182a4a' ||
        ground === '#2d4a53' ||
        ground === '#5a4632' ||
        ground === '#1f4d38' ||
        ground === '#6f1f2b'
        ? '#f6b73c'
        : '#101216',
      false,
    ),
  ]);
};

/** Where the fonts lie. */
const FONTS = path.resolve(import.meta.dirname, '../../../node_modules/@fontsource');
const opened = new Map<string, fontkit.Font>();
function fontOf(family: string, subset: string): fontkit.Font | null {
  const at = path.join(FONTS, family, 'files', `${family}-${subset}-400-normal.woff`);
  if (!fs.existsSync(at)) return null;
  let font = opened.get(at);
  if (!font) opened.set(at, (font = fontkit.create(fs.readFileSync(at)) as fontkit.Font));
  return font;
}

/** A line as wide as fontkit measures it, in a box that is a little narrower or wider. */
export const lettersOver: Make = () => {
  const designs: Design[] = [];
  const factors = [...sweep(0.985, 0.6, 5), ...sweep(1.015, 1.8, 5)];
  for (const [i, family] of ['noto-sans', 'zilla-slab', 'oswald', 'nunito'].entries())
    for (const [j, factor] of factors.entries()) {
      const text = LINES[(i + j) % 5]!;
      const sizeMm = 14;
      const font = fontOf(family, 'latin')!;
      const widthMm = (font.layout(text).advanceWidth / font.unitsPerEm) * sizeMm;
      const boxWidthMm = widthMm * factor;
      designs.push({
        kind: 'letters over',
        name: `${text} in ${family}, a box of ${round(factor)} of its width`,
        good: CLOTH,
        layers: [
          { text: { text, family, sizeMm, boxWidthMm, boxHeightMm: 20, wrap: false }, x: 150, y: 200, w: boxWidthMm },
        ],
        must: factor < 1 ? ['letters-over'] : [],
      });
    }
  return designs;
};

/** Letters that a family lacks and another has are set in the other one. */
export const lettersBorrowed: Make = () => {
  const texts = [
    'İzmir',
    'Łódź',
    'Ελλάδα',
    'Київ',
    'Ğüneş',
    'Ruder & Boot',
    'Regatta 1987',
    'Štvanice',
    'Åland',
    'Zürich',
  ];
  const families = ['rye', 'graduate', 'pirata-one', 'limelight', 'special-elite', 'bangers'];
  const subsets = ['latin', 'latin-ext', 'greek', 'cyrillic', 'cyrillic-ext', 'greek-ext', 'vietnamese'];
  return families.flatMap((family) =>
    texts.map((text): Design => {
      const fonts = subsets.flatMap((subset) => fontOf(family, subset) ?? []);
      const has = [...text].every(
        (letter) => letter === ' ' || fonts.some((font) => font.hasGlyphForCodePoint(letter.codePointAt(0)!)),
      );
      return {
        kind: 'borrowed letters',
        name: `${text} in ${family}`,
        good: CLOTH,
        layers: [{ text: { text, family, sizeMm: 18 }, x: 150, y: 200, w: 150 }],
        must: has ? [] : ['letters-borrowed'],
      };
    }),
  );
};

/** A transparent edge of a tenth or more makes sizes say something else than what is seen. */
export const edges: Make = () => {
  const art = (share: number) =>
    picture(
      `<rect x="${500 - 500 * share}" y="${500 - 500 * share}" width="${1000 * share}" height="${1000 * share}" fill="#182a4a"/>`,
    );
  const design = (share: number): Design => ({
    kind: 'edge',
    name: `${round(share * 100)} % of it seen`,
    good: CLOTH,
    layers: [{ art: art(share), x: 150, y: 200, w: 200 }],
    must: share < 0.9 ? ['edge'] : [],
    notes: ['edge'],
  });
  return [...sweep(0.88, 0.3).map(design), ...sweep(0.92, 1).map(design)];
};

/** The same picture in another size or format is a twin; one in another color, with other words, or turned round is none. */
export const twins: Make = () => {
  const shapes = [
    (a: string, b: string) =>
      `<circle cx="500" cy="420" r="330" fill="${a}"/><rect x="380" y="300" width="240" height="240" fill="${b}"/>`,
    (a: string, b: string) =>
      `<path d="M100 760L500 90L900 760z" fill="${a}"/><circle cx="450" cy="540" r="110" fill="${b}"/>`,
    (a: string, b: string) =>
      `<rect x="80" y="120" width="700" height="420" fill="${a}"/><path d="M200 520l220 -300l120 180z" fill="${b}"/>`,
    (a: string, b: string) =>
      `<path d="M90 500q200 -420 430 0t380 0v240h-810z" fill="${a}"/><rect x="600" y="600" width="180" height="90" fill="${b}"/>`,
    (a: string, b: string) =>
      `<circle cx="300" cy="400" r="220" fill="${a}"/><circle cx="640" cy="470" r="260" fill="${b}"/>`,
  ];
  const svg = (body: string, px: number) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" width="${px}" height="${px}"><rect width="1000" height="1000" fill="#ffffff"/>${body}</svg>`,
    );
  const words = (text: string) => outlined({ text, sizeMm: 90, fill: '#1a1c20' }, 200, 940);
  const draw = async (i: number, a: string, b: string, text: string, px: number) =>
    sharp(svg(shapes[i % 5]!(a, b) + (await words(text)), px))
      .png()
      .toBuffer();
  const [red, gold, navy] = ['#d2342a', '#f6b73c', '#182a4a'];
  const others: readonly {
    readonly what: string;
    readonly isSame: boolean;
    readonly make: (i: number) => Promise<Buffer>;
  }[] = [
    { what: 'smaller', isSame: true, make: (i) => draw(i, red, gold, 'Ebb 1987', 500) },
    {
      what: 'as a JPEG',
      isSame: true,
      make: async (i) =>
        sharp(await draw(i, red, gold, 'Ebb 1987', 900))
          .jpeg({ quality: 75 })
          .toBuffer(),
    },
    {
      what: 'as WebP',
      isSame: true,
      make: async (i) =>
        sharp(await draw(i, red, gold, 'Ebb 1987', 1500))
          .webp({ quality: 80 })
          .toBuffer(),
    },
    { what: 'a hair lighter', isSame: true, make: (i) => draw(i, '#d63a30', gold, 'Ebb 1987', 1200) },
    { what: 'in another color', isSame: false, make: (i) => draw(i, navy, gold, 'Ebb 1987', 1200) },
    { what: 'with another part in another color', isSame: false, make: (i) => draw(i, red, navy, 'Ebb 1987', 1200) },
    { what: 'with another year', isSame: false, make: (i) => draw(i, red, gold, 'Ebb 1942', 1200) },
    {
      what: 'turned round',
      isSame: false,
      make: async (i) =>
        sharp(await draw(i, red, gold, 'Ebb 1987', 1200))
          .flop()
          .toBuffer(),
    },
  ];
  return others.flatMap(({ what, isSame, make }) =>
    shapes.map((_, i): Design => ({
      kind: 'twin',
      name: `shape ${i} ${what}`,
      good: { ...CLOTH, colors: ['#ffffff'] },
      layers: [
        {
          art: withTwin(
            `twin ${i}`,
            () => draw(i, red, gold, 'Ebb 1987', 1200),
            `${what} ${i}`,
            () => make(i),
          ),
          x: 150,
          y: 200,
          w: 90,
        },
      ],
      must: isSame ? ['twin'] : [],
      notes: ['twin'],
    })),
  );
};

/** A picture with the one that it is compared with, as when the second is brought. */
function withTwin(name: string, make: () => Promise<Buffer>, other: string, makeOther: () => Promise<Buffer>): Picture {
  const [own, two] = [file(name, make), file(other, makeOther)];
  return async () => {
    const [a, b] = [await own(), await two()];
    const small = async (bytes: Buffer) => {
      const { data } = await sharp(bytes)
        .resize(COMPARED_PX, COMPARED_PX, { fit: 'fill' })
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      return { widthPx: COMPARED_PX, heightPx: COMPARED_PX, rgba: new Uint8Array(data) };
    };
    const isTwin = canBeTwins(a, b) && isSamePicture(await small(await make()), await small(await makeOther()));
    const twin = { artworkId: 'other', name: other, vector: b.vector, widthPx: b.widthPx, heightPx: b.heightPx };
    return { ...a, twins: isTwin ? [twin] : [] };
  };
}

/** Hairlines on an opaque ground, and on the largest goods: what is measured is the line as it is printed. */
export const thinAtSize: Make = () => {
  const least = { giclee: 0.2, sublimation: 0.35, uv: 0.25, 'direct-to-garment': 0.5 } as const;
  const bars = (strokeMm: number, longMm: number, ground: boolean) => {
    const high = (strokeMm / longMm) * 1000;
    const lines = [100, 260, 420, 580, 740, 900]
      .map((y) => `<rect x="60" y="${y - high / 2}" width="880" height="${high}" fill="#182a4a"/>`)
      .join('');
    return picture(`${ground ? '<rect width="1000" height="1000" fill="#ffffff"/>' : ''}${lines}`, { px: 12_000 });
  };
  const design = (technique: keyof typeof least, longMm: number, factor: number, ground: boolean): Design => ({
    kind: 'thin',
    name: `${round(least[technique] * factor)} mm at ${longMm} mm, ${technique}${ground ? ', on white' : ''}`,
    good: { technique, colors: ['#ffffff'], widthMm: longMm + 60, heightMm: longMm + 60 },
    layers: [
      { art: bars(least[technique] * factor, longMm, ground), x: longMm / 2 + 30, y: longMm / 2 + 30, w: longMm },
    ],
    must: factor < 1 ? ['thin'] : [],
    may: ['resolution'],
  });
  const factors = [0.5, 0.7, 1.4, 2];
  return [
    ...(['giclee', 'sublimation', 'uv', 'direct-to-garment'] as const).flatMap((technique) =>
      factors.flatMap((factor) => [design(technique, 250, factor, true), design(technique, 400, factor, true)]),
    ),
    ...factors.flatMap((factor) => [
      design('giclee', 600, factor, false),
      design('giclee', 900, factor, false),
      design('sublimation', 1400, factor, false),
      design('direct-to-garment', 500, factor, false),
    ]),
  ];
};

export const MORE_MISTAKES: readonly Make[] = [
  blocks,
  enlarged,
  wordsInside,
  dyed,
  onOrnament,
  pictureOver,
  lettersOver,
  lettersBorrowed,
  edges,
  twins,
  thinAtSize,
];
