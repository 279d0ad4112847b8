import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { alphaBounds, type Pixels } from '../artwork/analysis';
import { makeSolid, takeBackground } from '../artwork/background';
import { readPixelFacts } from '../artwork/pixel-facts';
import { reduced } from '../../server/images/look-closely';
import { demoBlank } from '../catalog/sample';
import { newDocument } from '../document/document';
import { sampleLayer } from '../document/sample';
import type { ArtworkSize, Finding } from './finding';
import { findFindings } from './findings';
import { afterRemedy, bringsOf, type Checked } from './outcome';
import { remedyName, withArtwork } from './remedy';

const checked = (
  size: Partial<ArtworkSize>,
  one = sampleLayer(),
  blank = demoBlank,
  others: Checked['artworks'] = {},
): Checked => ({
  doc: {
    ...newDocument('b1', 'GBP', 'Tee'),
    areas: { 'main.front': { layers: { l: one } } },
    variants: { 'color=estuary;size=m': {}, 'color=sandbar;size=m': {} },
  },
  blank,
  artworks: { a1: { vector: false, widthPx: 3000, heightPx: 3000, ...size }, ...others },
  letterings: {},
});
const look = ({ doc, blank, artworks, letterings }: Checked) => findFindings(doc, blank, artworks, letterings);
const named = (of: Checked, code: string): Finding | undefined =>
  look(of).find((finding) => finding.id === `${code}:l`);

const sewn = {
  ...demoBlank,
  geometries: Object.fromEntries(
    Object.entries(demoBlank.geometries).map(([id, g]) => [id, { ...g, technique: 'embroidery' as const }]),
  ),
};

describe('what the pixels of an artwork bring with them', () => {
  it('a box is told on the colors where it is seen, and is gone with the background', () => {
    const box = checked({ flatBox: '#ffffff' });
    const finding = named(box, 'box')!;
    expect(finding).toMatchObject({
      severity: 'warn',
      says: 'Crest stands in a white box, which is seen on Estuary, Sandbar.',
    });
    expect(remedyName(finding.remedy!)).toBe('Remove the background');
    expect(named(afterRemedy(box, finding, finding.remedy!), 'box')).toBeUndefined();
    expect(named(checked({ flatBox: '#e9e1d0' }), 'box')!.says).toContain('seen on Estuary.');
  });

  it('on paper with bleed a flat ground is part of the picture', () => {
    const paper = {
      ...demoBlank,
      geometries: Object.fromEntries(Object.entries(demoBlank.geometries).map(([id, g]) => [id, { ...g, bleedMm: 3 }])),
    };
    expect(named(checked({ flatBox: '#ffffff' }, sampleLayer(), paper), 'box')).toBeUndefined();
  });

  it('half-transparent parts are told where ink cannot do them', () => {
    const soft = checked({ halfTransparent: 0.3 });
    const finding = named(soft, 'half-transparent')!;
    expect(finding.says).toMatch(/^30 % of Crest is half transparent/);
    expect(named(afterRemedy(soft, finding, finding.remedy!), 'half-transparent')).toBeUndefined();
    const sublimated = {
      ...demoBlank,
      geometries: Object.fromEntries(
        Object.entries(demoBlank.geometries).map(([id, g]) => [id, { ...g, technique: 'sublimation' as const }]),
      ),
    };
    expect(named(checked({ halfTransparent: 0.3 }, sampleLayer(), sublimated), 'half-transparent')).toBeUndefined();
  });

  it('a layer that is set to half is told where ink cannot do it, and told again as whole', () => {
    const faded = checked({}, sampleLayer({ opacity: 0.6 }));
    const finding = named(faded, 'faded')!;
    expect(finding.says).toBe('Crest is set to 60 % opacity; on cloth it prints as a pale, speckled ground.');
    expect(named(afterRemedy(faded, finding, finding.remedy!), 'faded')).toBeUndefined();
    expect(named(checked({}, sampleLayer({ opacity: 1 })), 'faded')).toBeUndefined();
  });

  it('strokes are judged at the size at which they are sewn', () => {
    // A hundredth of 60 mm is 0.6 mm, of 150 mm 1.5 mm; thread needs 1 mm.
    const thinInk = [
      { width: 0.009, share: 0.02 },
      { width: 0.013, share: 0.4 },
    ];
    expect(named(checked({ thinInk }, sampleLayer({}, { widthMm: 60 }), sewn), 'thin')!.says).toContain(
      '40 % of Crest is thinner than 1 mm',
    );
    expect(named(checked({ thinInk }, sampleLayer({}, { widthMm: 150 }), sewn), 'thin')).toBeUndefined();
  });

  it('colors are counted before they are reduced: ten of one artwork are told', async () => {
    const hexes = [
      '#ffffff',
      '#1a1c20',
      '#d2342a',
      '#1f5fae',
      '#f6b73c',
      '#1f4d38',
      '#7fc0b8',
      '#c63a7a',
      '#5a4a9c',
      '#e29ab0',
    ];
    const bars = hexes.map((hex, i) => `<rect x="${i * 40}" width="40" height="200" fill="${hex}"/>`).join('');
    const { data, info } = await sharp(
      Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200">${bars}</svg>`),
    )
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const looks = await readPixelFacts({ widthPx: info.width, heightPx: info.height, rgba: data }, reduced);
    expect(looks.threadColors).toHaveLength(10);
    const of = checked(looks, sampleLayer(), sewn);
    expect(look(of).find((finding) => finding.id === 'threads:main.front')!.says).toContain('about 10 colors');
  });

  it('a box is found within a transparent margin, and taken away from there', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><rect x="60" y="60" width="280" height="280" fill="#fff"/><circle cx="200" cy="200" r="90" fill="none" stroke="#182a4a" stroke-width="30"/></svg>`;
    const { data, info } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const pixels: Pixels = { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
    expect((await readPixelFacts(pixels, reduced)).flatBox).toBe('#ffffff');
    takeBackground(pixels, '#ffffff');
    const alpha = (x: number, y: number) => pixels.rgba[4 * (y * 400 + x) + 3];
    // The margin, where the box was, the ring, and the white inside it, which stays.
    expect([alpha(10, 10), alpha(80, 80), alpha(290, 200), alpha(200, 200)]).toEqual([0, 0, 255, 255]);
  });

  it('more colors than threads are told once for the area', () => {
    const hexes = ['#ffffff', '#1a1c20', '#d2342a', '#1f5fae', '#f6b73c', '#1f4d38', '#7fc0b8', '#c63a7a'];
    const of = checked({ mainColors: hexes.map((hex) => ({ hex, share: 1 / 8 })) }, sampleLayer(), sewn);
    expect(look(of).find((finding) => finding.id === 'threads:main.front')!.says).toContain(
      'about 8 colors and is sewn in 6',
    );
  });

  describe('the same picture brought twice', () => {
    const large = { artworkId: 'a2', name: 'Crest large', vector: false, widthPx: 6000, heightPx: 6000 };
    const told = (twins: ArtworkSize['twins']) => named(checked({ twins }), 'twin');

    it('is told with what differs, and the larger one offered', () => {
      const finding = told([large])!;
      expect(finding.severity).toBe('note');
      expect(finding.says).toBe('Crest is the same picture as Crest large, 6000 × 6000 px instead of 3000 × 3000 px.');
      expect(finding.remedy).toEqual({ kind: 'artwork', artworkId: 'a2' });
    });

    it('is offered only where it is larger, or a vector', () => {
      const small = { ...large, artworkId: 'a3', name: 'Crest small', widthPx: 300, heightPx: 300 };
      expect(told([small])!.remedy).toBeUndefined();
      expect(told([small, large])!.remedy).toEqual({ kind: 'artwork', artworkId: 'a2' });
      expect(told([{ ...small, vector: true }])!.says).toContain('a vector instead of 3000 × 3000 px');
      expect(told([])).toBeUndefined();
    });
  });

  it('detail that a picture never had is told where its pixels alone would do, and it is sharp when it is smaller', () => {
    // 2,400 px at 150 mm are 406 DPI; of 0.45 of them 183 are left, under two thirds of 300.
    const soft = checked({ detailShare: 0.45, widthPx: 2400, heightPx: 2400 });
    const finding = named(soft, 'enlarged')!;
    expect(finding).toMatchObject({ severity: 'warn' });
    expect(finding.says).toContain('hold the detail of about 1080, which is 183 DPI');
    const mended = afterRemedy(soft, finding, finding.remedy!);
    expect(look(mended).map(({ id }) => id)).not.toContain('enlarged:l');
    expect(named(checked({ detailShare: 0.7, widthPx: 2400, heightPx: 2400 }), 'enlarged')).toBeUndefined();
    expect(named(checked({ detailShare: null }), 'enlarged')).toBeUndefined();
  });

  it('blocks of a JPEG are told where they are coarse and print large', () => {
    // 8 px of 1,000 on 150 mm are 1.2 mm.
    const coarse = checked({ jpegStep: 59, widthPx: 1000, heightPx: 1000 });
    const finding = named(coarse, 'blocks')!;
    expect(finding.says).toContain('its blocks print 1.2 mm wide');
    expect(named(afterRemedy(coarse, finding, finding.remedy!), 'blocks')).toBeUndefined();
    // Of 12,000 px they are a tenth of a millimeter.
    expect(named(checked({ jpegStep: 59, widthPx: 12_000, heightPx: 12_000 }), 'blocks')).toBeUndefined();
    expect(named(checked({ jpegStep: 12, widthPx: 1000, heightPx: 1000 }), 'blocks')).toBeUndefined();
  });

  it('one that replaced a larger one says so', () => {
    const of = checked({ replaced: { name: 'Old crest', widthPx: 6000, heightPx: 6000 } });
    expect(named(of, 'replaced-smaller')!.says).toBe(
      'Crest has 3000 × 3000 px; Old crest, which it replaced, had 6000 × 6000.',
    );
  });

  it('what lies outside is charged for and not printed; hiding it ends that', () => {
    const of = checked({}, sampleLayer({}, { xMm: 900 }));
    const finding = named(of, 'empty')!;
    expect(finding.says).toContain('nothing of it will print, and the area is still charged for');
    expect(look(afterRemedy(of, finding, finding.remedy!))).toEqual([]);
  });
});

describe('a remedy', () => {
  it.each([
    [
      'a ring whose white middle stays',
      '<circle cx="50" cy="50" r="38" fill="#fff" stroke="#d2342a" stroke-width="3"/>',
    ],
    ['letters that are all ink', '<path d="M20 20H80V34H57V80H43V34H20Z" fill="#d2342a"/>'],
    ['hairlines', '<path d="M10 30H90M10 50H90M10 70H90" stroke="#2d4a53" stroke-width="0.6"/>'],
    [
      'a shadow',
      '<circle cx="50" cy="50" r="20" fill="#d2342a"/><circle cx="60" cy="60" r="26" fill="#222" fill-opacity="0.4"/>',
    ],
  ])(
    'that changes pixels brings what it said, and nothing else, when it is really done: %s',
    async (_name, art) => {
      const drawn = async (more: string): Promise<Pixels> => {
        const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="600" height="600">${more}${art}</svg>`;
        const { data, info } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
        return { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
      };
      const sizeOf = async (pixels: Pixels): Promise<ArtworkSize> => {
        const bounds = alphaBounds(pixels)!;
        const visible = {
          left: bounds.left / 600,
          right: bounds.right / 600,
          top: bounds.top / 600,
          bottom: bounds.bottom / 600,
        };
        return { vector: false, widthPx: 3000, heightPx: 3000, visible, ...(await readPixelFacts(pixels, reduced)) };
      };
      const pale = {
        ...demoBlank,
        options: demoBlank.options.map((option) => ({
          ...option,
          values: option.values.map((value) => (value.code === 'sandbar' ? { ...value, hex: '#fbfbfa' } : value)),
        })),
      };
      for (const ground of [
        '',
        '<rect width="100" height="100" fill="#fff"/>',
        '<rect width="100" height="100" fill="#2d4a53"/>',
      ])
        for (const blank of [demoBlank, pale, sewn]) {
          const pixels = await drawn(ground);
          const before = checked(await sizeOf(pixels), sampleLayer(), blank);
          const now = look(before);
          for (const finding of now) {
            if (finding.remedy?.kind !== 'derive') continue;
            const { kind } = finding.remedy.derive;
            if (kind !== 'background' && kind !== 'solid') continue;
            const done = { ...pixels, rgba: pixels.rgba.slice() };
            if (kind === 'background') takeBackground(done, before.artworks.a1!.flatBox!);
            else makeSolid(done);
            const after = look(checked(await sizeOf(done), sampleLayer(), blank));
            expect(after.map((one) => one.id)).not.toContain(finding.id);
            const came = after.filter((one) => one.severity !== 'note' && !now.some((was) => was.id === one.id));
            const said = bringsOf(before, now, finding, finding.remedy);
            expect([kind, came.map((one) => one.id)]).toEqual([kind, said.map((one) => one.id)]);
          }
        }
    },
    120_000,
  );

  it('that enlarges names beforehand that it will be told', () => {
    const of = checked({ widthPx: 600, heightPx: 600 });
    const finding = named(of, 'resolution')!;
    const brings = bringsOf(of, look(of), finding, finding.also!);
    // 600 px on 150 mm are 102 DPI
    expect(brings.map((one) => one.says)).toEqual([
      'Crest was enlarged from 600 px wide: it has the detail of 102 DPI on the front.',
    ]);
    expect(named(afterRemedy(of, finding, finding.also!), 'resolution')).toBeUndefined();
  });

  it('that trims leaves what is seen where it was', () => {
    const before = sampleLayer({}, { xMm: 100, yMm: 120, widthMm: 80, rotationDeg: 90 });
    const after = withArtwork(before, 'a2', 1, { left: 0.5, top: 0, right: 1, bottom: 1 });
    // The right half of a picture turned by a quarter lies below its middle.
    expect(after.placement).toMatchObject({ xMm: expect.closeTo(100, 6), yMm: expect.closeTo(140, 6), widthMm: 40 });
  });

  it('clears its own finding, for any artwork and place', () => {
    const size = fc.record({
      widthPx: fc.integer({ min: 200, max: 6000 }),
      heightPx: fc.integer({ min: 200, max: 6000 }),
      flatBox: fc.constantFrom(null, '#ffffff', '#2d4a53'),
      halfTransparent: fc.constantFrom(0, 0.3),
      visible: fc.constantFrom(null, { left: 0.1, top: 0.2, right: 0.7, bottom: 1 }),
      mainColors: fc.constantFrom([{ hex: '#2d4a53', share: 1 }], [{ hex: '#d2342a', share: 1 }]),
    });
    const place = fc.record({
      xMm: fc.integer({ min: -100, max: 400 }),
      yMm: fc.integer({ min: -100, max: 500 }),
      widthMm: fc.integer({ min: 20, max: 400 }),
      rotationDeg: fc.constantFrom(0, 30, 90, 180),
      flipX: fc.boolean(),
    });
    fc.assert(
      fc.property(size, place, fc.constantFrom(demoBlank, sewn), (of, placement, blank) => {
        const before = checked(of, sampleLayer({}, placement), blank);
        const now = look(before);
        for (const finding of now)
          for (const remedy of [finding.remedy, finding.also]) {
            if (!remedy) continue;
            const after = look(afterRemedy(before, finding, remedy));
            expect(after.map((one) => one.id)).not.toContain(finding.id);
          }
      }),
      { numRuns: 300 },
    );
  });
});
