import { converter, differenceCiede2000 } from 'culori';
import * as fontkit from 'fontkit';
import fs from 'node:fs';
import path from 'node:path';
import type { Technique } from '../../../src/core/geometry/area';
import { badge, disc, landscape, lines, picture, type Picture } from './pictures';
import type { Design } from './designs';
import type { Good } from './goods';

/**
 * Designs with one mistake each, and the same just without it. What must be said is written down from the rules of the trade (common practice, no source,
 * where nothing else stands beside it), before any of it was run.
 */

const CLOTH: Good = { technique: 'direct-to-garment', colors: ['#2d4a53'] };
const POSTER: Good = { technique: 'giclee', widthMm: 300, heightMm: 200, bleedMm: 3 };
const TECHNIQUES: readonly Technique[] = ['direct-to-garment', 'sublimation', 'embroidery', 'giclee', 'uv'];
/** A good on which ink of deep blue is seen, whatever prints it. */
const paleGood = (technique: Technique): Good => ({ technique, colors: ['#f3ead6'] });

/** `count` numbers from `from` to `to`, closer together at the beginning: near the line. */
const sweep = (from: number, to: number, count = 20): number[] =>
  Array.from({ length: count }, (_, i) => from + (to - from) * (i / (count - 1)) ** 2);
const round = (value: number) => Math.round(value * 1000) / 1000;

type Make = () => Design[];

/** Effective DPI = px ÷ (mm ÷ 25.4); under two thirds of the density wanted a print looks soft. */
const resolution: Make = () => {
  const whole = badge();
  const art = async () => ({ ...(await whole()), widthPx: 2000, heightPx: 2000 });
  // At 300 DPI two thirds are 200.
  const limitMm = (2000 / 200) * 25.4;
  const design =
    (over: boolean) =>
    (factor: number, i: number): Design => ({
      kind: 'resolution',
      name: `${round(factor)} of the limit`,
      good: { ...paleGood(TECHNIQUES[i % 5]!), widthMm: 900, heightMm: 900 },
      layers: [{ art, x: 450, y: 450, w: limitMm * factor }],
      must: over ? ['resolution'] : [],
      // Small colors of a badge in thread, and what else a large one brings.
      may: ['thin'],
    });
  return [...sweep(1.01, 2.9).map(design(true)), ...sweep(0.99, 0.3).map(design(false))];
};

/** Nothing that matters comes nearer to the edge than the safe margin. */
const margin: Make = () => {
  const art = disc('#182a4a');
  const sides = [
    (gap: number) => ({ x: 40 + gap, y: 200 }),
    (gap: number) => ({ x: 300 - 40 - gap, y: 200 }),
    (gap: number) => ({ x: 150, y: 40 + gap }),
    (gap: number) => ({ x: 150, y: 400 - 40 - gap }),
  ];
  const design =
    (over: boolean) =>
    (gap: number, i: number): Design => ({
      kind: 'margin',
      name: `${round(gap)} mm from the edge`,
      good: paleGood(TECHNIQUES[i % 5]!),
      layers: [{ art, ...sides[i % 4]!(gap), w: 80 }],
      must: over ? ['margin'] : [],
    });
  return [...sweep(4.8, 0.1).map(design(true)), ...sweep(5.2, 60).map(design(false))];
};

/** What runs over the trim is cut off: letters always, a motif unless it runs to the end of the bleed. */
const cut: Make = () => {
  const art = disc('#182a4a');
  const motif = (over: number): Design => ({
    kind: 'cut',
    name: `a motif ${round(over)} mm over the trim`,
    good: POSTER,
    layers: [{ art, x: 300 + over - 30, y: 100, w: 60 }],
    must: over > 0 ? ['cut'] : [],
  });
  const letters = (over: number): Design => ({
    kind: 'cut',
    name: `letters ${round(over)} mm over the trim`,
    good: POSTER,
    // Set to the right of a box that ends there: the last letter's edge is within a few tenths of it.
    layers: [
      {
        text: { text: 'REGATTA', align: 'right', boxWidthMm: 100, boxHeightMm: 30, sizeMm: 18 },
        x: 300 + over + 0.3 - 50,
        y: 100,
        w: 100,
      },
    ],
    must: over > 0 ? ['cut'] : [],
  });
  return [
    ...sweep(0.1, 2.9, 12).map(motif),
    ...sweep(0.5, 2.2, 12).map(letters),
    ...sweep(-5.2, -60, 10).map(motif),
    ...sweep(-6.5, -60, 12).map(letters),
  ];
};

/** What reaches outside of a good without bleed is not printed. */
const outside: Make = () => {
  const art = disc('#182a4a');
  const design = (over: number, i: number): Design => ({
    kind: 'outside',
    name: `${round(over)} mm over the edge, fit ${['keep', 'fill', 'fit'][i % 3]}`,
    good: paleGood(TECHNIQUES[i % 5]!),
    layers: [{ art, x: 300 + over - 40, y: 200, w: 80, fit: (['keep', 'fill', 'fit'] as const)[i % 3]! }],
    must: over > 0 ? ['outside'] : [],
  });
  return [...sweep(0.2, 30).map(design), ...sweep(-5.2, -100).map(design)];
};

/** A picture that nearly covers a sheet with bleed leaves a white edge once it is cut. */
const strip: Make = () => {
  const art = landscape();
  // 3 : 2, as the sheet of 306 × 206 nearly is: the sheet's height needs 309 mm of width.
  const whole = 206 * 1.5;
  const straight = (by: number, i: number): Design => ({
    kind: 'strip',
    name: `${round(by)} mm ${by < 0 ? 'short' : 'over'}`,
    good: { ...POSTER, otherMm: [450, 300] },
    both: i % 2 === 0,
    layers: [{ art, x: 150, y: 100, w: whole + by, fit: i % 2 === 0 ? 'fill' : 'keep' }],
    must: by < 0 ? ['strip'] : [],
  });
  const turned = (degrees: number, grow: number): Design => ({
    kind: 'strip',
    name: `turned by ${round(degrees)}°${grow > 1 ? ', and large enough' : ''}`,
    good: POSTER,
    layers: [{ art, x: 150, y: 100, w: whole * grow, turn: degrees }],
    must: grow > 1 ? [] : ['strip'],
  });
  /** How much larger a rectangle 3 : 2 has to be to cover itself when it is turned. */
  const enough = (degrees: number) => {
    const a = (degrees * Math.PI) / 180;
    return Math.max(Math.cos(a) + Math.sin(a) * 1.5, Math.cos(a) + Math.sin(a) / 1.5);
  };
  const over = (by: number): Design => ({
    kind: 'strip',
    name: `a picture ${round(-by)} mm short over a ground`,
    good: POSTER,
    layers: [
      { art: groundArt, x: 150, y: 100, w: 320 },
      { art, x: 150, y: 100, w: whole + by },
    ],
    must: [],
    // Its edge lies near the knife.
    may: ['margin', 'cut'],
  });
  const groundArt = picture(
    '<rect width="1000" height="667" fill="#3b2f2a"/><rect width="1000" height="60" fill="#5a4632"/>',
    { height: 667 },
  );
  return [
    ...sweep(-0.4, -30, 14).map(straight),
    ...sweep(0.2, 60, 14).map(straight),
    ...sweep(0.2, 4, 10).map((degrees) => turned(degrees, 1)),
    ...sweep(0.2, 4, 10).map((degrees) => turned(degrees, enough(degrees) * 1.01)),
    ...sweep(-1, -20, 6).map(over),
  ];
};

/** A flat box around a logo is seen on cloth of another color. */
const box: Make = () => {
  const logo =
    '<circle cx="500" cy="500" r="330" fill="none" stroke="#7e2a33" stroke-width="90"/><rect x="420" y="420" width="160" height="160" fill="#e0a93c"/>';
  const full = picture(`<rect width="1000" height="1000" fill="#fff"/>${logo}`);
  const within = picture(`<rect x="60" y="60" width="880" height="880" fill="#fff"/>${logo}`);
  const bare = picture(logo);
  const cloths = [
    '#2d4a53',
    '#1f2226',
    '#7e2a33',
    '#3f6b4a',
    '#d9a62e',
    '#b5b9bd',
    '#182a4a',
    '#c9a05a',
    '#5a4632',
    '#9cc7e6',
  ];
  const design = (art: Picture, cloth: string, what: string, isSeen: boolean): Design => ({
    kind: 'box',
    name: `${what} on ${cloth}`,
    good: { technique: 'direct-to-garment', colors: [cloth] },
    layers: [{ art, x: 150, y: 200, w: 200 }],
    must: isSeen ? ['box'] : [],
    // Without its box a logo can be in the color of one of these cloths: that is told as well, and meant.
    may: isSeen ? ['contrast'] : [],
  });
  return [
    ...cloths.map((cloth) => design(full, cloth, 'a box to the edge', true)),
    ...cloths.map((cloth) => design(within, cloth, 'a box within a margin', true)),
    ...['#ffffff', '#fefefe', '#fdfdfb', '#fbfbfb', '#fafafa'].flatMap((cloth) => [
      design(full, cloth, 'a box to the edge', false),
      design(within, cloth, 'a box within a margin', false),
    ]),
    ...cloths.filter((cloth) => cloth !== '#7e2a33').map((cloth) => design(bare, cloth, 'no box', false)),
    {
      ...design(full, '#ffffff', 'a box on paper', false),
      good: { ...POSTER, heightMm: 300 },
      layers: [{ art: full, x: 150, y: 150, w: 200 }],
    },
  ];
};

/** Ink on cloth lies on a white ground that cannot be half there; thread neither; on paper and as dye it can. */
const halfTransparent: Make = () => {
  const soft = (share: number) =>
    picture(
      `<rect width="1000" height="${1000 * (1 - share)}" fill="#182a4a"/><rect y="${1000 * (1 - share)}" width="1000" height="${1000 * share}" fill="#182a4a" fill-opacity="0.45"/>`,
    );
  const designs: Design[] = [];
  for (const [i, share] of sweep(0.05, 0.6).entries())
    designs.push({
      kind: 'half-transparent',
      name: `${round(share)} of it half transparent`,
      good: paleGood(i % 2 === 0 ? 'direct-to-garment' : 'embroidery'),
      layers: [{ art: soft(share), x: 150, y: 200, w: 150 }],
      must: ['half-transparent'],
    });
  for (const [i, share] of sweep(0.05, 0.6).entries())
    designs.push({
      kind: 'half-transparent',
      name: `${round(share)} of it half transparent, on what can do it`,
      good: paleGood(i % 2 === 0 ? 'giclee' : 'sublimation'),
      layers: [{ art: soft(share), x: 150, y: 200, w: 150 }],
      must: [],
    });
  return designs;
};

const lab = converter('lab65');
const difference = differenceCiede2000();
const apart = (one: string, two: string) => difference(lab(one)!, lab(two)!);
const hexOf = (r: number, g: number, b: number) =>
  `#${[r, g, b]
    .map((c) =>
      Math.max(0, Math.min(255, Math.round(c)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
/** Colors about so far from one (CIEDE2000, as culori counts it), lighter or darker. */
function atDistance(from: string, wanted: number): string {
  const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(from.slice(at, at + 2), 16)) as [number, number, number];
  const light = r + g + b > 380 ? -1 : 1;
  for (let step = 0; step < 256; step += 1) {
    const hex = hexOf(r + light * step, g + light * step, b + light * step);
    if (apart(hex, from) >= wanted) return hex;
  }
  return light > 0 ? '#ffffff' : '#000000';
}

const COLORS = [
  '#2d4a53',
  '#1f2226',
  '#7e2a33',
  '#3f6b4a',
  '#d9a62e',
  '#b5b9bd',
  '#182a4a',
  '#c9a05a',
  '#5a4632',
  '#9cc7e6',
];

/** Ink that is nearly the color of what is under it is hardly seen: under a difference of 12 (chosen by eye, no source). */
const contrast: Make = () => {
  const designs: Design[] = [];
  for (const [i, color] of COLORS.entries())
    for (const [wanted, isLost] of [
      [2, true],
      [5, true],
      [9, true],
      [15, false],
      [22, false],
      [35, false],
    ] as const) {
      const ink = atDistance(color, wanted);
      const technique = (['direct-to-garment', 'uv'] as const)[i % 2]!;
      const actual = apart(ink, color);
      if (isLost ? actual >= 12 : actual < 12) continue;
      designs.push({
        kind: 'contrast',
        name: `ink ${ink} on ${color}`,
        good: { technique, colors: [color] },
        layers: [
          i % 2 === 0
            ? { art: disc(ink), x: 150, y: 200, w: 150 }
            : { text: { text: 'EBB', fill: ink, sizeMm: 20 }, x: 150, y: 200, w: 150 },
        ],
        must: isLost ? ['contrast'] : [],
      });
    }
  return designs;
};

/** Dye colors what is below it and cannot be lighter: pale ink on a dark good is lost, dark ink on a pale one is not. */
const dye: Make = () => {
  // Pale and nearly without a color: a strong yellow takes the blue out of a navy, and is seen by that.
  const pale = ['#ffffff', '#f4ecea', '#f3ead6', '#f7f1e0', '#e4ecf2'];
  const dark = ['#182a4a', '#1a1c20', '#6f1f2b', '#1f4d38', '#33261c'];
  const designs: Design[] = [];
  for (const ink of pale)
    for (const good of ['#1f2226', '#182a4a', '#2d4a53', '#33261c'])
      designs.push({
        kind: 'dye',
        name: `${ink} dyed on ${good}`,
        good: { technique: 'sublimation', colors: [good] },
        layers: [{ art: disc(ink), x: 150, y: 200, w: 150 }],
        must: ['contrast'],
      });
  for (const ink of dark)
    for (const good of ['#ffffff', '#f3ead6', '#f4d3cf', '#9cc7e6'])
      designs.push({
        kind: 'dye',
        name: `${ink} dyed on ${good}`,
        good: { technique: 'sublimation', colors: [good] },
        layers: [{ art: disc(ink), x: 150, y: 200, w: 150 }],
        must: [],
      });
  return designs;
};

/** White on a white good is nothing; a picture that has white in it is meant. */
const whiteGoods: Make = () => {
  const designs: Design[] = [];
  const techniques = ['sublimation', 'giclee', 'uv'] as const;
  for (const [i, ink] of [
    '#ffffff',
    '#fefefe',
    '#fdfdfd',
    '#fbfbfb',
    '#fcfcf8',
    '#fafafa',
    '#f9f9f9',
    '#f7f7f7',
    '#fffff8',
    '#fbfdff',
  ].entries()) {
    const good = { technique: techniques[i % 3]! };
    designs.push(
      {
        kind: 'white good',
        name: `letters ${ink}`,
        good,
        layers: [{ text: { text: 'EBB', fill: ink, sizeMm: 30 }, x: 150, y: 200, w: 150 }],
        must: ['contrast'],
      },
      {
        kind: 'white good',
        name: `a disc ${ink}`,
        good,
        layers: [{ art: disc(ink), x: 150, y: 200, w: 150 }],
        must: ['contrast'],
      },
      {
        kind: 'white good',
        name: `letters ${COLORS[i]}`,
        good,
        layers: [{ text: { text: 'EBB', fill: COLORS[i]!, sizeMm: 30 }, x: 150, y: 200, w: 150 }],
        must: [],
      },
      {
        kind: 'white good',
        name: `a badge of ${COLORS[i]} with white`,
        good,
        layers: [{ art: badge(COLORS[i], '#ffffff', '#ffffff'), x: 150, y: 200, w: 150 }],
        must: [],
      },
    );
  }
  return designs;
};

/** Letters are seen against the picture that they lie on, whatever the cloth. */
const overPicture: Make = () => {
  const designs: Design[] = [];
  for (const [i, ground] of COLORS.entries())
    for (const [wanted, isLost] of [
      [2, true],
      [8, true],
      [18, false],
      [40, false],
    ] as const) {
      const ink = atDistance(ground, wanted);
      if (isLost ? apart(ink, ground) >= 12 : apart(ink, ground) < 12) continue;
      designs.push({
        kind: 'over a picture',
        name: `letters ${ink} on a disc ${ground}`,
        good: {
          technique: i % 2 === 0 ? 'direct-to-garment' : 'giclee',
          ...(i % 2 === 0 ? { colors: [atDistance(ground, 40)] } : {}),
        },
        layers: [
          { art: disc(ground), x: 150, y: 200, w: 200 },
          { text: { text: 'EBB', fill: ink, sizeMm: 24, boxHeightMm: 30 }, x: 150, y: 200, w: 90 },
        ],
        must: isLost ? ['contrast'] : [],
      });
    }
  return designs;
};

/** Heights of capitals and small letters of a font, em, from its own OS/2 table. */
function heightsOf(family: string): { cap: number; small: number } {
  const file = path.resolve(
    import.meta.dirname,
    `../../../node_modules/@fontsource/${family}/files/${family}-latin-400-normal.woff`,
  );
  const font = fontkit.create(fs.readFileSync(file)) as fontkit.Font;
  return { cap: font.capHeight / font.unitsPerEm, small: font.xHeight / font.unitsPerEm };
}

/** Sewn capitals from 5 mm and small letters from 4; printed ones as those of 5 pt type, 1.2 and 0.9 mm. */
const lettersSmall: Make = () => {
  const designs: Design[] = [];
  const families = ['noto-sans', 'montserrat', 'zilla-slab', 'oswald'];
  const factors = [
    ...sweep(0.96, 0.5, 6).map((factor) => [factor, true] as const),
    ...sweep(1.06, 3, 6).map((factor) => [factor, false] as const),
  ];
  for (const family of families)
    for (const isSewn of [true, false])
      for (const [factor, isLow] of factors) {
        const { cap, small } = heightsOf(family);
        const isCapital = designs.length % 2 === 0;
        const least = isCapital ? (isSewn ? 5 : 1.2) : isSewn ? 4 : 0.9;
        const sizeMm = (least * factor) / (isCapital ? cap : small);
        designs.push({
          kind: 'small letters',
          name: `${isCapital ? 'capitals' : 'small letters'} of ${family} ${round(least * factor)} mm high, ${isSewn ? 'sewn' : 'printed'}`,
          good: paleGood(isSewn ? 'embroidery' : 'giclee'),
          layers: [
            {
              text: {
                text: isCapital ? 'EBB' : 'ebb nor wave',
                family,
                style: 'regular',
                sizeMm,
                boxWidthMm: 200,
                boxHeightMm: sizeMm * 1.5,
                wrap: false,
              },
              x: 150,
              y: 200,
              w: 200,
            },
          ],
          must: isLow ? ['letters-small'] : [],
          // Strokes of small letters are thin as well.
          may: ['thin'],
        });
      }
  return designs;
};

/** Strokes thinner than the technique holds: 0.5 mm on cloth, 0.35 as dye, 1 sewn, 0.2 on fine paper, 0.25 by UV. */
const LEAST: Record<Technique, number> = {
  'direct-to-garment': 0.5,
  sublimation: 0.35,
  embroidery: 1,
  giclee: 0.2,
  uv: 0.25,
};
const thin: Make = () => {
  const designs: Design[] = [];
  for (const technique of TECHNIQUES)
    for (const widthMm of [120, 200, 280])
      for (const [factor, isThin] of [
        [0.4, true],
        [0.6, true],
        [0.75, true],
        [1.3, false],
        [1.8, false],
        [3, false],
      ] as const) {
        const strokeMm = LEAST[technique] * factor;
        designs.push({
          kind: 'thin',
          name: `lines of ${round(strokeMm)} mm at ${widthMm} mm, ${technique}`,
          good: { ...paleGood(technique), widthMm: 400, heightMm: 400 },
          layers: [{ art: lines(strokeMm / widthMm), x: 200, y: 200, w: widthMm }],
          must: isThin ? ['thin'] : [],
          may: ['resolution'],
        });
      }
  return designs;
};

/** One area is sewn in six threads at most. */
const threads: Make = () => {
  const palette = [
    '#ffffff',
    '#1a1c20',
    '#d2342a',
    '#1f5fae',
    '#f6b73c',
    '#1f4d38',
    '#e29ab0',
    '#5a4a9c',
    '#a9b26a',
    '#7b8288',
    '#33261c',
    '#7fc0b8',
  ];
  const bars = (count: number, from: number) =>
    picture(
      Array.from(
        { length: count },
        (_, i) =>
          `<rect x="${(i * 1000) / count}" width="${1000 / count}" height="600" fill="${palette[(from + i) % 12]}"/>`,
      ).join(''),
      { height: 600 },
    );
  const designs: Design[] = [];
  for (let from = 0; from < 5; from += 1)
    for (const count of [7, 8, 10, 12, 2, 4, 5, 6])
      designs.push({
        kind: 'threads',
        name: `${count} colors from ${from}`,
        good: { technique: 'embroidery', widthMm: 120, heightMm: 90, colors: ['#c9a05a'] },
        layers: [{ art: bars(count, from), x: 60, y: 45, w: 100 }],
        must: count > 6 ? ['threads'] : [],
      });
  return designs;
};

/** Letters that no font here has come out as boxes. */
const lettersMissing: Make = () => {
  const none = [
    '漕艇',
    'เรือ',
    'ボート',
    '노젓기',
    '⛵',
    '🚣',
    'A漕',
    'Boot 🚤',
    '☃☂',
    'ቤት',
    'ខ្មែរ',
    'தமிழ்',
    '日本',
    '水',
    '花',
    '船',
    '猫',
    '❤️‍🔥',
    '𝔼bb',
    '⌘K',
  ];
  const all = [
    'Regatta',
    'Ruderklub Łódź',
    'Κωπηλασία',
    'Гребля',
    'חתירה',
    'التجديف',
    'नौकायन',
    'Zürich',
    'São Paulo',
    'Åland',
    'Štvanice',
    'Ğüneş',
    'Þingvellir',
    'Đà Nẵng',
    'ŒUVRE',
    'Ελλάδα',
    'Київ',
    '1,50 €',
    'N° 7',
    'A\u030angstro\u0308m',
  ];
  const design =
    (isMissing: boolean) =>
    (text: string): Design => ({
      kind: 'missing letters',
      name: text,
      good: paleGood('direct-to-garment'),
      layers: [{ text: { text, sizeMm: 16 }, x: 150, y: 200, w: 150 }],
      must: isMissing ? ['letters-missing'] : [],
      may: ['letters-borrowed'],
    });
  return [...none.map(design(true)), ...all.map(design(false))];
};

/** Sides pulled apart by more than a few hundredths are seen. */
const stretched: Make = () => {
  const art = badge();
  const design =
    (over: boolean) =>
    (by: number): Design => ({
      kind: 'stretched',
      name: `pulled by ${round(by * 100)} %`,
      good: { ...paleGood('direct-to-garment'), otherMm: [300 * (1 + by), 400] },
      both: true,
      layers: [{ art, x: 150, y: 200, w: 150, fit: 'stretch' }],
      must: over ? ['stretched'] : [],
    });
  return [...sweep(0.035, 0.4).map(design(true)), ...sweep(0.025, 0, 20).map(design(false))];
};

/** A layer behind an opaque one, and the same twice in one place, change nothing. */
const layersOver: Make = () => {
  const [a, b] = [badge(), disc('#c9a05a')];
  const behind = (x: number, isHidden: boolean): Design => ({
    kind: 'behind',
    name: `${round(x - 150)} mm aside`,
    good: CLOTH,
    layers: [
      { art: a, x, y: 200, w: 60 },
      { art: b, x: 150, y: 200, w: 160 },
    ],
    must: isHidden ? ['behind'] : [],
  });
  const twice = (aside: number): Design => ({
    kind: 'twice',
    name: `${round(aside)} mm aside`,
    good: paleGood('direct-to-garment'),
    layers: [
      { art: a, x: 150, y: 200, w: 100 },
      { art: a, x: 150 + aside, y: 200, w: 100, same: 0 },
    ],
    must: aside < 1 ? ['twice'] : [],
    // Where it lies over itself it is hardly seen.
    may: ['contrast'],
  });
  return [
    ...sweep(150, 190).map((x) => behind(x, true)),
    ...sweep(215, 232).map((x) => behind(x, false)),
    ...sweep(0, 0.6).map(twice),
    ...sweep(2, 60).map(twice),
  ];
};

/** On a pennant the slanting edge counts, not the box around it. */
const shapes: Make = () => {
  const art = disc('#182a4a');
  const good: Good = {
    technique: 'uv',
    widthMm: 300,
    heightMm: 200,
    outline: 'M 0 0 L 300 100 L 0 200 Z',
    colors: ['#f3ead6'],
  };
  // The upper edge runs from 0,0 to 300,100: a point at x, y lies (y − x ÷ 3) × cos(arctan(1 ÷ 3)) below it.
  const cosine = Math.cos(Math.atan(1 / 3));
  const at = (gapMm: number, x: number): Design['layers'] => [{ art, x, y: x / 3 + (20 + gapMm) / cosine, w: 40 }];
  const design =
    (code: string | null) =>
    (gap: number, i: number): Design => ({
      kind: 'shape',
      name: `${round(gap)} mm inside the slanting edge`,
      good,
      layers: at(gap, 60 + (i % 4) * 15),
      must: code === null ? [] : [code],
    });
  return [
    ...sweep(4, 0.9, 20).map(design('margin')),
    ...sweep(-1.5, -25, 20).map(design('outside')),
    ...sweep(5.5, 24, 20).map(design(null)),
  ];
};

/** Nothing of a layer on the sheet is charged for and not printed. */
const empty: Make = () => {
  const art = disc('#182a4a');
  const design = (x: number, i: number): Design => ({
    kind: 'empty',
    name: `its middle at ${round(x)} mm of 300`,
    good: paleGood(TECHNIQUES[i % 5]!),
    layers: [{ art, x, y: 200, w: 80 }],
    must: x >= 340 ? ['empty'] : ['outside'],
  });
  return [...sweep(340.2, 600).map(design), ...sweep(339, 265).map(design)];
};

export const MISTAKES: readonly Make[] = [
  resolution,
  margin,
  cut,
  outside,
  strip,
  box,
  halfTransparent,
  contrast,
  dye,
  whiteGoods,
  overPicture,
  lettersSmall,
  thin,
  threads,
  lettersMissing,
  stretched,
  layersOver,
  shapes,
  empty,
];
