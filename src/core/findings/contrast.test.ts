import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { newDocument, type Layer, type ProductDocument } from '../document/document';
import { groundsOf, poorContrast } from './contrast';
import { isAcceptable } from './finding';
import { findFindings } from './findings';
import { remedyName, withRemedy } from './remedy';

const placed = {
  order: 'a0',
  name: 'Motto',
  geometryId: 'g-small',
  fit: 'keep',
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm: 140, yMm: 150, widthMm: 200, rotationDeg: 0, flipX: false, flipY: false },
} as const;
const text = (over: object = {}): Layer => ({
  kind: 'text',
  ...placed,
  lettering: {
    text: 'Ebb',
    family: 'rye',
    style: 'regular',
    sizeMm: 20,
    align: 'left',
    tracking: 0,
    lineHeight: 1.2,
    fill: '#2d4a53',
    outline: null,
    arcDeg: 0,
    boxWidthMm: 200,
    boxHeightMm: 40,
    shrinkToMm: null,
    wrap: true,
    ...over,
  },
});
const art: Layer = { kind: 'artwork', artworkId: 'a1', ...placed };
const none = () => [];
const doc = (layer: Layer): ProductDocument => ({
  ...newDocument('b1', 'GBP', 'Tee'),
  areas: { 'main.front': { layers: { l: layer } } },
  variants: { 'color=estuary;size=m': {}, 'color=sandbar;size=m': {} },
});
const set = { missing: [], borrowed: [], fits: true, sizeMm: 20, capMm: 14, smallMm: 10 };
const says = (layer: Layer, over: object = {}) =>
  findFindings(doc(layer), demoBlank, {}, { l: { ...set, ...over } }).map(
    (finding) => `${finding.severity} ${finding.id}`,
  );

describe('contrast', () => {
  it('names the colors on which a layer is hardly seen, and the ink that is seen there', () => {
    // The letters are in the color of the cloth: no difference (CIEDE2000)
    const poor = poorContrast(text(), groundsOf(demoBlank, ['estuary', 'sandbar']), 'direct-to-garment', none)!;
    expect(poor).toMatchObject({ colors: [{ code: 'estuary' }], lost: 1, difference: 0, tint: '#ffffff' });
    expect(
      poorContrast(text({ fill: '#ffffff' }), groundsOf(demoBlank, ['estuary']), 'direct-to-garment', none),
    ).toBeNull();
    expect(poorContrast(text(), groundsOf(demoBlank, []), 'direct-to-garment', none)).toBeNull();
  });

  it('of an artwork counts by what it mostly prints', () => {
    const mostly = (share: number) => () => [
      { hex: '#2d4a53', share },
      { hex: '#ffffff', share: 1 - share },
    ];
    expect(poorContrast(art, groundsOf(demoBlank, ['estuary']), 'direct-to-garment', mostly(0.7))).not.toBeNull();
    expect(poorContrast(art, groundsOf(demoBlank, ['estuary']), 'direct-to-garment', mostly(0.5))).toBeNull();
  });

  it('is mended by a version in another color, which ends the finding', () => {
    const [finding] = findFindings(doc(text()), demoBlank, {}, { l: set });
    expect(finding!.says).toBe(
      'Motto has low contrast on Estuary: 100 % of it nearly matches that color (ΔE 0.0, visible from 12).',
    );
    expect(remedyName(finding!.remedy!)).toBe('Make it white there');
    const mended = withRemedy(text(), finding!.remedy!);
    expect(mended.versions).toEqual({ estuary: { tint: '#ffffff' } });
    expect(says(mended)).toEqual([]);
  });
});

describe('letters', () => {
  const white = text({ fill: '#ffffff', outline: { color: '#d2342a', widthMm: 1 } });

  it('that no font has stop; those that are borrowed warn, with a family that has them', () => {
    expect(says(white, { missing: ['漕'] })).toEqual(['stop letters-missing:l']);
    const [finding] = findFindings(doc(white), demoBlank, {}, { l: { ...set, borrowed: ['П', 'р'] } });
    expect(finding!.says).toBe('Rye has no П р; they are set in another font. Noto Sans has all of them.');
    const mended = withRemedy(white, finding!.remedy!);
    expect(mended.kind === 'text' && mended.lettering.family).toBe('noto-sans');
  });

  it('count for the margin, not the box around them', () => {
    const near = { ...white, placement: { ...white.placement, xMm: 102 } } as Layer;
    // The box begins at 2 mm; the letters 40 mm further in.
    expect(says(near)).toEqual(['warn margin:l']);
    expect(says(near, { bounds: { left: 40, top: 5, right: 160, bottom: 35 } })).toEqual([]);
  });

  it('that do not fit, are too small or not there are told', () => {
    expect(says(white, { fits: false })).toEqual(['warn letters-over:l']);
    expect(says(white, { smallMm: 0.8 })).toEqual(['warn letters-small:l']);
    expect(says(white, { smallMm: null, capMm: 1.1 })).toEqual(['warn letters-small:l']);
    expect(says(white, { smallMm: 0.9, capMm: 1.2 })).toEqual([]);
    expect(says(text({ text: ' \n ' }))).toContain('warn no-letters:l');
  });

  it('with strokes that the technique does not hold are told, and larger ones are not', () => {
    expect(says(white, { strokeMm: 0.4 })).toEqual(['warn thin:l']);
    expect(says(white, { strokeMm: 0.5 })).toEqual([]);
    const [finding] = findFindings(doc(white), demoBlank, {}, { l: { ...set, strokeMm: 0.4 } });
    expect(finding!.says).toBe(
      'The strokes of Motto are about 0.4 mm thick; print holds 0.5 mm at least. Make the letters larger or bolder.',
    );
    expect(withRemedy(white, finding!.remedy!).placement.widthMm).toBe(250);
  });

  it('that are sewn must be larger', () => {
    const sewn = {
      ...demoBlank,
      geometries: Object.fromEntries(
        Object.entries(demoBlank.geometries).map(([id, g]) => [id, { ...g, technique: 'embroidery' as const }]),
      ),
    };
    const [finding] = findFindings(doc(white), sewn, {}, { l: { ...set, capMm: 5.6, smallMm: 3.2 } });
    expect(finding!.says).toBe('The small letters of Motto are 3.2 mm high; thread needs 4 mm at least.');
    // 200 mm × 4 ÷ 3.2
    const larger = withRemedy(white, finding!.remedy!);
    expect(larger.placement.widthMm).toBe(250);
    expect(says(white, { capMm: 5.6, smallMm: 4 })).toEqual([]);
    const capitals = findFindings(doc(white), sewn, {}, { l: { ...set, capMm: 4.9, smallMm: null } });
    expect(capitals[0]!.says).toContain('The capitals of Motto are 4.9 mm high; thread needs 5 mm');
  });
});

describe('an artwork with text in a font that is not here', () => {
  it('says so', () => {
    const size = { vector: true, widthPx: 10, heightPx: 10, missingFonts: ['Quayside Grotesk'] };
    const [finding] = findFindings(doc(art), demoBlank, { a1: size });
    expect(finding).toMatchObject({ severity: 'stop', id: 'fonts-missing:l' });
    expect(finding!.says).toContain('Quayside Grotesk, which is not here: it is set in Noto Sans instead');
    expect(isAcceptable(finding!)).toBe(true);
    expect(isAcceptable({ id: 'resolution:l', severity: 'stop' })).toBe(false);
  });
});
