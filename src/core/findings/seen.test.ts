import { describe, expect, it } from 'vitest';
import type { Pixels } from '../artwork/analysis';
import { miniOf, readMini } from '../artwork/mini';
import type { Blank } from '../catalog/blank';
import { demoBlank } from '../catalog/sample';
import { newDocument, type Layer } from '../document/document';
import type { Technique } from '../geometry/area';
import type { Placement } from '../geometry/placement';
import { seenColor } from './contrast';
import type { ArtworkSize } from './finding';
import { findFindings } from './findings';
import { remedied, withRemedy } from './remedy';

const at = (over: Partial<Placement> = {}): Placement => ({
  xMm: 140,
  yMm: 150,
  widthMm: 200,
  rotationDeg: 0,
  flipX: false,
  flipY: false,
  ...over,
});
const base = {
  name: 'Motto',
  geometryId: 'g-small',
  fit: 'keep',
  overrides: {},
  hidden: false,
  locked: false,
} as const;
const art = (artworkId: string, order: string, over: Partial<Placement> = {}, name = artworkId): Layer => ({
  ...base,
  kind: 'artwork',
  artworkId,
  order,
  name,
  placement: at(over),
});
const text = (fill: string, order = 'a5', over: Partial<Placement> = {}): Layer => ({
  ...base,
  kind: 'text',
  order,
  placement: at({ widthMm: 100, ...over }),
  lettering: {
    text: 'Ebb',
    family: 'rye',
    style: 'regular',
    sizeMm: 20,
    align: 'left',
    tracking: 0,
    lineHeight: 1.2,
    fill,
    outline: null,
    arcDeg: 0,
    boxWidthMm: 100,
    boxHeightMm: 30,
    shrinkToMm: null,
    wrap: true,
  },
});
/** A picture of one color, opaque where `has` says so. */
const picture = (hex: string, has: (x: number, y: number) => boolean = () => true): ArtworkSize => {
  const value = Number.parseInt(hex.slice(1), 16);
  const rgba = new Uint8Array(4 * 48 * 48);
  for (let y = 0; y < 48; y += 1)
    for (let x = 0; x < 48; x += 1)
      if (has(x / 48, y / 48)) rgba.set([value >> 16, (value >> 8) & 255, value & 255, 255], 4 * (y * 48 + x));
  const pixels: Pixels = { widthPx: 48, heightPx: 48, rgba };
  return {
    vector: true,
    widthPx: 1000,
    heightPx: 1000,
    mainColors: [{ hex, share: 1 }],
    mini: miniOf(pixels),
  };
};
const printedBy = (technique: Technique, colors = true): Blank => ({
  ...demoBlank,
  options: colors ? demoBlank.options : demoBlank.options.slice(1),
  areas: demoBlank.areas.map((area) => ({ ...area, technique })),
  geometries: Object.fromEntries(Object.entries(demoBlank.geometries).map(([id, g]) => [id, { ...g, technique }])),
});
const look = (blank: Blank, artworks: Record<string, ArtworkSize>, layers: Record<string, Layer>, color = 'estuary') =>
  findFindings(
    {
      ...newDocument('b1', 'GBP', ''),
      areas: { 'main.front': { layers } },
      variants: { [`color=${color};size=m`]: {} },
    },
    blank,
    artworks,
    Object.fromEntries(Object.keys(layers).map((id) => [id, { missing: [], borrowed: [], fits: true, sizeMm: 20 }])),
  ).filter(({ severity }) => severity !== 'note');
const ids = (...args: Parameters<typeof look>) => look(...args).map(({ id }) => id);

describe('a mini', () => {
  it('holds what lies where, transparent parts aside', () => {
    const mini = readMini(picture('#d2342a', (x) => x < 0.5).mini!)!;
    expect([mini.widthPx, mini.heightPx]).toEqual([24, 24]);
    expect([...mini.rgba.slice(0, 4)]).toEqual([210, 52, 42, 255]);
    expect([...mini.rgba.slice(4 * 20, 4 * 20 + 4)]).toEqual([0, 0, 0, 0]);
    expect(readMini('24x24:AAAA')).toBeNull();
    expect(readMini('what')).toBeNull();
  });
});

describe('dye', () => {
  // Light × light: linear light of #808080 is 0.2159 (IEC 61966-2-1), of it squared 0.0466, which sRGB writes as 61 = 0x3d.
  it('takes the color of the good under it', () => {
    expect(seenColor('#808080', '#808080', 'sublimation')).toBe('#3d3d3d');
    expect(seenColor('#ffffff', '#2d4a53', 'sublimation')).toBe('#2d4a53');
    expect(seenColor('#ffffff', '#2d4a53', 'direct-to-garment')).toBe('#ffffff');
  });

  it('that is lighter than the good is not seen; the same ink as pigment is', () => {
    const pale = { a: picture('#f4d3cf') };
    const layers = { a: art('a', 'a0') };
    const [finding] = look(printedBy('sublimation'), pale, layers);
    expect(finding!.id).toBe('contrast:a');
    expect(ids(printedBy('direct-to-garment'), pale, layers)).toEqual([]);
    // On a pale good a dark dye is seen.
    expect(ids(printedBy('sublimation'), { a: picture('#182a4a') }, layers, 'sandbar')).toEqual([]);
  });

  it('offers no color where none is seen', () => {
    const black = printedBy('sublimation');
    const coal: Blank = {
      ...black,
      options: black.options.map((option) =>
        option.code === 'color'
          ? { ...option, values: option.values.map((value) => ({ ...value, hex: '#1f2226' })) }
          : option,
      ),
    };
    const [finding] = look(coal, {}, { t: text('#f6b73c') });
    expect(finding!.says).toContain('Dye cannot be lighter than the good.');
    expect(finding!.remedy).toBeUndefined();
  });
});

describe('dye on a good of another color', () => {
  const towel = printedBy('sublimation');
  /** Blue, green and sand, as a landscape has them. */
  const landscape: ArtworkSize = {
    ...picture('#7fb0d0'),
    mainColors: [
      { hex: '#7fb0d0', share: 0.5 },
      { hex: '#3f6b4a', share: 0.25 },
      { hex: '#c9a05a', share: 0.25 },
    ],
  };
  const found = (colors: readonly string[]) =>
    findFindings(
      {
        ...newDocument('b1', 'GBP', ''),
        areas: { 'main.front': { layers: { a: art('a', 'a0') } } },
        variants: Object.fromEntries(colors.map((color) => [`color=${color};size=m`, {}])),
      },
      towel,
      { a: landscape },
    );

  it('changes its colors: told, and the color left out where another one stays', () => {
    // Sandbar is a pale cream, Estuary a dark blue-green: on that sand and sky come out dark.
    const [finding] = found(['estuary', 'sandbar']);
    expect(finding).toMatchObject({ severity: 'warn' });
    expect(finding!.says).toMatch(/on Estuary/);
    expect(finding!.says).not.toContain('Sandbar');
    const { variants } = remedied(
      {
        ...newDocument('b1', 'GBP', ''),
        areas: {},
        variants: { 'color=estuary;size=m': {}, 'color=sandbar;size=m': {} },
      },
      'main.front',
      'a',
      finding!.remedy!,
    );
    expect(variants).toEqual({ 'color=sandbar;size=m': {} });
    expect(found(['sandbar'])).toEqual([]);
    expect(found(['estuary'])[0]!.remedy?.kind).not.toBe('leave-out');
  });
});

describe('an ornament', () => {
  const cloth = printedBy('direct-to-garment');
  const plate = (color: string): Layer => ({
    ...base,
    kind: 'ornament',
    ornament: 'badge-disc',
    order: 'a0',
    name: 'Plate',
    color,
    placement: at({ widthMm: 200 }),
  });

  it('is the ground of the letters on it, and hides what lies behind it', () => {
    expect(ids(cloth, {}, { o: plate('#f3ead6'), t: text('#2d4a53') })).toEqual([]);
    expect(ids(cloth, {}, { o: plate('#f3ead6'), t: text('#efe4cf') })).toEqual(['contrast:t']);
    expect(ids(cloth, { a: picture('#d2342a') }, { a: art('a', 'a', { widthMm: 60 }), o: plate('#f3ead6') })).toEqual([
      'behind:a',
    ]);
  });
});

describe('goods without a color option', () => {
  const mug = printedBy('sublimation', false);
  it('are white: white letters are not seen on them, and black ones are', () => {
    const [finding] = look(mug, {}, { t: text('#ffffff') }, 'x');
    expect(finding!.id).toBe('contrast:t');
    expect(finding!.says).toContain('has low contrast on white');
    const mended = withRemedy(text('#ffffff'), finding!.remedy!);
    expect(ids(mug, {}, { t: mended }, 'x')).toEqual([]);
  });

  it('keep the white parts of a picture; only one that is all white is told', () => {
    const half = {
      ...picture('#ffffff'),
      mainColors: [
        { hex: '#ffffff', share: 0.9 },
        { hex: '#182a4a', share: 0.1 },
      ],
    };
    expect(ids(mug, { a: half }, { a: art('a', 'a0') }, 'x')).toEqual([]);
    expect(ids(mug, { a: picture('#fefefe') }, { a: art('a', 'a0') }, 'x')).toEqual(['contrast:a']);
  });
});

describe('layers over one another', () => {
  const cloth = printedBy('direct-to-garment');
  it('letters in the color of the picture beneath them are told, whatever the cloth; others are not', () => {
    const artworks = { a: picture('#d2342a') };
    const over = (fill: string) => ({ a: art('a', 'a0'), t: text(fill) });
    const [finding] = look(cloth, artworks, over('#cc3a30'));
    expect(finding).toMatchObject({ id: 'contrast:t', layerId: 't' });
    expect(finding!.says).toContain('low contrast on what lies beneath it');
    const mended = withRemedy(text('#cc3a30'), finding!.remedy!);
    expect(ids(cloth, artworks, { a: art('a', 'a0'), t: mended })).toEqual([]);
    // The color of the cloth, but over a picture.
    expect(ids(cloth, artworks, over('#2d4a53'))).toEqual([]);
    expect(ids(cloth, artworks, { t: text('#2d4a53') })).toEqual(['contrast:t']);
    // Beside the picture, or over a hole in it, the cloth is the ground.
    const hole = { a: picture('#d2342a', (x, y) => Math.hypot(x - 0.5, y - 0.5) > 0.35) };
    expect(ids(cloth, hole, over('#2d4a53'))).toEqual(['contrast:t']);
  });

  it('a layer behind an opaque one is told, and hiding it ends that', () => {
    const artworks = { a: picture('#d2342a'), b: picture('#ffffff') };
    const layers = { a: art('a', 'a0', { widthMm: 100 }), b: art('b', 'a1') };
    const [finding] = look(cloth, artworks, layers);
    expect(finding).toMatchObject({ id: 'behind:a', severity: 'warn' });
    expect(ids(cloth, artworks, { ...layers, a: withRemedy(layers.a, finding!.remedy!) })).toEqual([]);
    // Half of it looks out.
    expect(ids(cloth, artworks, { ...layers, a: art('a', 'a0', { xMm: 40 }) })).toEqual(
      expect.not.arrayContaining(['behind:a']),
    );
    expect(ids(cloth, { ...artworks, b: picture('#ffffff', (x) => x > 0.5) }, layers)).toEqual([]);
  });

  it('the same twice in one place is told once, on the upper one', () => {
    const artworks = { a: picture('#d2342a', (x) => x < 0.6) };
    const layers = { a: art('a', 'a0'), b: art('a', 'a1') };
    const [finding, ...rest] = look(cloth, artworks, layers);
    expect([finding!.id, rest]).toEqual(['twice:b', []]);
    expect(ids(cloth, artworks, { ...layers, b: withRemedy(layers.b, finding!.remedy!) })).toEqual([]);
    expect(ids(cloth, artworks, { a: art('a', 'a0'), b: art('a', 'a1', { xMm: 150 }) })).not.toContain('twice:b');
  });
});
