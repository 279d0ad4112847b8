import { describe, expect, it } from 'vitest';
import { variantKey, type Blank } from '../catalog/blank';
import { demoBlank } from '../catalog/sample';
import { newDocument, type ProductDocument } from './document';
import { onOtherBlank } from './other-blank';
import { sampleLayer } from './sample';

const square = () => 1;
const key = (color: string, size: string) => variantKey({ color, size });

const tee: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Ebb tee'),
  areas: { 'main.front': { layers: { l1: sampleLayer() } } },
  variants: {
    [key('estuary', 'm')]: { sku: 'EBB-M', gtin: '4006381333931' },
    [key('sandbar', 'xxl')]: {},
  },
};

/** Another shirt: its front lies elsewhere and is smaller, it has no XXL, and sandbar goes by another code. */
const other: Blank = {
  ...demoBlank,
  id: 'b2',
  code: 'quay-tee',
  name: 'Quay Tee',
  partner: { ...demoBlank.partner, id: 'p2', name: 'Cinder Lane' },
  areas: [{ ...demoBlank.areas[0]!, geometries: [{ geometryId: 'h', applies: {} }] }],
  geometries: { h: { ...demoBlank.geometries['g-small']!, widthMm: 250, anchor: { xMm: 125, yMm: 20 } } },
  options: [
    {
      ...demoBlank.options[0]!,
      values: [
        { code: 'estuary', name: 'Estuary', hex: '#2d4a53' },
        { code: 'sand', name: 'sandbar', hex: '#e9e1d0' },
      ],
    },
    { ...demoBlank.options[1]!, values: demoBlank.options[1]!.values.slice(0, 2) },
  ],
  variants: ['estuary', 'sand'].flatMap((color) =>
    ['s', 'm'].map((size) => ({
      ...demoBlank.variants[0]!,
      key: key(color, size),
      values: { color, size },
    })),
  ),
};

describe('a product on another blank', () => {
  it('keeps its size and its distance to the anchor where there is room', () => {
    const { document, areas, notes } = onOtherBlank(tee, demoBlank, other, square);
    // 150 mm wide about 140, 150; the anchor goes from 140, 0 to 125, 20.
    expect(document.areas['main.front']!.layers.l1).toMatchObject({
      geometryId: 'h',
      placement: { xMm: 125, yMm: 170, widthMm: 150 },
    });
    expect(areas).toEqual([{ from: 'Front', to: 'Front' }]);
    expect(document.blankId).toBe('b2');
    expect(notes.join(' ')).not.toContain('smaller');
  });

  it('is made smaller as a whole where there is none, so that its layers stay as they lie to one another', () => {
    const two: ProductDocument = {
      ...tee,
      areas: {
        'main.front': {
          layers: {
            l1: sampleLayer({}, { xMm: 140, yMm: 190, widthMm: 280 }),
            l2: sampleLayer({ order: 'a1' }, { xMm: 40, yMm: 40, widthMm: 20 }),
          },
        },
      },
    };
    const { document, notes } = onOtherBlank(two, demoBlank, other, square);
    const { l1, l2 } = document.areas['main.front']!.layers;
    // 250 of 280 mm: everything × 0.892857 about the middles, 140, 190 → 125, 190.
    expect(l1!.placement).toMatchObject({ xMm: 125, yMm: 190, widthMm: 250 });
    expect(l2!.placement).toMatchObject({ xMm: 35.7, yMm: 56.1, widthMm: 17.9 });
    expect(notes).toContain('Front is smaller; its design was made smaller to fit.');
  });

  it('has the variants that are there, by code or by name, and says which are not', () => {
    const { document, variantCount, notes } = onOtherBlank(tee, demoBlank, other, square);
    expect(document.variants).toEqual({ [key('estuary', 'm')]: {} });
    expect(variantCount).toBe(1);
    expect(notes).toContain('Quay Tee does not come in XXL.');
    const small = { ...tee, variants: { [key('sandbar', 's')]: {} } };
    expect(Object.keys(onOtherBlank(small, demoBlank, other, square).document.variants)).toEqual([key('sand', 's')]);
  });

  it('takes fixed prices to the variants that became of them, words along, and leaves shots and inserts behind', () => {
    const full: ProductDocument = {
      ...tee,
      price: {
        ...tee.price,
        base: {
          ...tee.price.base,
          insert: 'card',
          variants: {
            [key('estuary', 'm')]: { kind: 'retail', amountMinor: 2400 },
            [key('sandbar', 'xxl')]: { kind: 'retail', amountMinor: 2900 },
          },
        },
      },
      pictures: {
        base: {
          x: { order: 'a0', shotId: 's1', color: 'estuary' },
          y: { order: 'a1', shotId: null, imageId: 'i1', color: 'sandbar' },
        },
        stores: {},
      },
    };
    const { document, notes } = onOtherBlank(full, demoBlank, other, square);
    expect(document.price.base.variants).toEqual({ [key('estuary', 'm')]: { kind: 'retail', amountMinor: 2400 } });
    expect(document.price.base.insert).toBeNull();
    expect(document.words).toEqual(full.words);
    expect(document.pictures.base).toEqual({ y: { order: 'a1', shotId: null, imageId: 'i1', color: 'sand' } });
    expect(notes).toContain('The insert is Millrace Works’s own; choose one of Cinder Lane under Price.');
    expect(notes.some((note) => note.startsWith('Fixed prices stay'))).toBe(true);
  });

  it('leaves out in stores what it left out, and is sold there in the same listings', () => {
    const here = { [key('estuary', 'm')]: true as const, [key('sandbar', 'xxl')]: true as const };
    const listings = { '1': { title: 'Dark' }, '2': { values: { sandbar: true as const }, title: 'Light' } };
    const shades = { s1: { sandbar: 'Beige', coal: 'Black' } };
    const own = { ...tee, leftOut: { s1: here }, split: { s1: { option: 'color', listings } }, shades };
    const { document } = onOtherBlank(own, demoBlank, other, square);
    expect(document.leftOut).toEqual({ s1: { [key('estuary', 'm')]: true } });
    expect(document.shades).toEqual({ s1: { sand: 'Beige' } });
    expect(document.split!.s1!.listings).toEqual({
      '1': { title: 'Dark' },
      '2': { values: { sand: true }, title: 'Light' },
    });
    expect(onOtherBlank(tee, demoBlank, other, square).document).not.toHaveProperty('split');
  });

  it('says which areas have no place there, and goes to the only one where both have one', () => {
    const both = { ...tee, areas: { ...tee.areas, 'main.back': { layers: { l3: sampleLayer() } } } };
    const { areas, notes, document } = onOtherBlank(both, demoBlank, other, square);
    expect(areas).toEqual([
      { from: 'Front', to: 'Front' },
      { from: 'Back', to: null },
    ]);
    expect(Object.keys(document.areas)).toEqual(['main.front']);
    expect(notes).toContain('Quay Tee has no area like Back; its design is left out.');
    const mug = {
      ...other,
      areas: [{ ...other.areas[0]!, key: 'main.wrap', name: 'Wrap', technique: 'sublimation' as const }],
    };
    const wrapped = onOtherBlank(tee, demoBlank, mug, square);
    expect(Object.keys(wrapped.document.areas)).toEqual(['main.wrap']);
    expect(wrapped.notes.some((note) => note.includes('look at the colors'))).toBe(true);
  });

  it('covers a sheet with bleed as it did', () => {
    const poster: Blank = {
      ...other,
      geometries: {
        h: { ...other.geometries.h!, widthMm: 500, heightMm: 700, bleedMm: 3, anchor: { xMm: 250, yMm: 0 } },
      },
    };
    const filled = {
      ...tee,
      areas: { 'main.front': { layers: { l1: sampleLayer({ fit: 'fill' }, { xMm: 140, yMm: 190, widthMm: 380 }) } } },
    };
    const { placement } = onOtherBlank(filled, demoBlank, poster, square).document.areas['main.front']!.layers.l1!;
    // A square that covers 280 × 380 has to cover 506 × 706: × max(506/280, 706/380) = 1.857895.
    expect(placement).toMatchObject({ xMm: 250, yMm: 350, widthMm: 706 });
  });
});
