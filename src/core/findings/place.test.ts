import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Blank } from '../catalog/blank';
import { demoBlank } from '../catalog/sample';
import { newDocument, type Layer } from '../document/document';
import type { Geometry } from '../geometry/area';
import type { Placement } from '../geometry/placement';
import { findFindings, type ArtworkSize } from './findings';
import { remedyName, withRemedy } from './remedy';

const sheet = (widthMm: number, heightMm: number, bleedMm: number): Geometry => ({
  ...demoBlank.geometries['g-small']!,
  widthMm,
  heightMm,
  bleedMm,
  safeMm: 5,
});
/** A poster of two shapes, 30 × 20 and 24 × 18 cm: 3:2 and 4:3. */
const poster = (bleedMm: number): Blank => ({
  ...demoBlank,
  geometries: { 'g-small': sheet(300, 200, bleedMm), 'g-large': sheet(240, 180, bleedMm) },
});
const at = (over: Partial<Placement> = {}): Placement => ({
  xMm: 150,
  yMm: 100,
  widthMm: 200,
  rotationDeg: 0,
  flipX: false,
  flipY: false,
  ...over,
});
const art = (placement: Placement, over: Partial<Layer> = {}): Layer =>
  ({
    kind: 'artwork',
    artworkId: 'a1',
    order: 'a0',
    name: 'Chart',
    geometryId: 'g-small',
    fit: 'keep',
    overrides: {},
    hidden: false,
    locked: false,
    placement,
    ...over,
  }) as Layer;
const size = (over: Partial<ArtworkSize> = {}): ArtworkSize => ({
  vector: false,
  widthPx: 6000,
  heightPx: 4000,
  ...over,
});
const find = (layer: Layer, blank: Blank, of: ArtworkSize = size(), keys = ['color=estuary;size=m']) =>
  findFindings(
    {
      ...newDocument('b1', 'GBP', 'Poster'),
      areas: { 'main.front': { layers: { l: layer } } },
      variants: Object.fromEntries(keys.map((key) => [key, {}])),
    },
    blank,
    { a1: of },
  );
const named = (findings: ReturnType<typeof find>, code: string) =>
  findings.find((finding) => finding.id === `${code}:l`);

describe('the safe margin', () => {
  it('is told with how near a layer comes', () => {
    // 200 × 133.3 mm with its left edge at 2 mm
    const finding = named(find(art(at({ xMm: 102 })), poster(0)), 'margin');
    expect(finding!.says).toBe('Chart comes within 2.0 mm of the edge of the front; 5 mm are the safe margin.');
    expect(named(find(art(at({ xMm: 106 })), poster(0)), 'margin')).toBeUndefined();
  });

  it('does not count transparent edges, nor what runs over the trim', () => {
    const visible = { left: 0.1, top: 0, right: 1, bottom: 1 };
    expect(named(find(art(at({ xMm: 102 })), poster(0), size({ visible })), 'margin')).toBeUndefined();
    expect(named(find(art(at({ widthMm: 320 })), poster(3)), 'margin')).toBeUndefined();
  });

  it('is kept once the remedy is done, wherever the layer was', () => {
    fc.assert(
      fc.property(
        fc.record({
          xMm: fc.integer({ min: 20, max: 280 }),
          yMm: fc.integer({ min: 20, max: 180 }),
          widthMm: fc.integer({ min: 20, max: 299 }),
          rotationDeg: fc.constantFrom(0, 17, 90, -45),
          flipX: fc.boolean(),
          flipY: fc.constant(false),
        }),
        (placement) => {
          const layer = art(placement);
          const before = named(find(layer, poster(0)), 'margin');
          if (!before) return;
          expect(named(find(withRemedy(layer, before.remedy!), poster(0)), 'margin')).toBeUndefined();
        },
      ),
    );
  });
});

describe('a bare strip', () => {
  it('is told where an artwork nearly covers a sheet with bleed, and is gone once it fills it', () => {
    // 300 × 200 mm on a sheet of 306 × 206: 3 mm are bare at each side
    const layer = art(at({ widthMm: 300 }));
    const finding = named(find(layer, poster(3)), 'strip');
    expect(finding!.says).toBe('Chart leaves a strip of 3.0 mm bare at the left of the front, bleed included.');
    expect(remedyName(finding!.remedy!)).toBe('Fill the sheet');
    expect(named(find(withRemedy(layer, finding!.remedy!), poster(3)), 'strip')).toBeUndefined();
  });

  it('is not seen in a motif on a ground, nor on a garment', () => {
    expect(named(find(art(at({ widthMm: 150 })), poster(3)), 'strip')).toBeUndefined();
    expect(named(find(art(at({ widthMm: 290 })), poster(0)), 'strip')).toBeUndefined();
  });

  it('is gone after the remedy for every shape and place', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 270, max: 320 }),
        fc.integer({ min: 140, max: 160 }),
        fc.integer({ min: 90, max: 110 }),
        fc.integer({ min: 3600, max: 4400 }),
        (widthMm, xMm, yMm, heightPx) => {
          const layer = art(at({ widthMm, xMm, yMm }));
          const of = size({ heightPx });
          const before = named(find(layer, poster(3), of), 'strip');
          if (before) expect(named(find(withRemedy(layer, before.remedy!), poster(3), of), 'strip')).toBeUndefined();
        },
      ),
    );
  });
});

describe('stretching', () => {
  it('is told with how much, and fill is the remedy', () => {
    const layer = art(at(), { fit: 'stretch' });
    const finding = named(
      find(layer, poster(0), size(), ['color=estuary;size=m', 'color=estuary;size=xxl']),
      'stretched',
    );
    // (240 ÷ 300) ÷ (180 ÷ 200) is 0.889: 12.5 % out of shape
    expect(finding!.says).toBe('Chart is stretched by 13 % on 240 × 180 mm.');
    expect(withRemedy(layer, finding!.remedy!).fit).toBe('fill');
  });
});

describe('resolution', () => {
  it('offers the largest width at which an artwork is sharp', () => {
    // 600 px at 300 DPI are 50.8 mm
    const layer = art(at());
    const finding = named(find(layer, poster(0), size({ widthPx: 600, heightPx: 400 })), 'resolution');
    expect(finding).toMatchObject({ severity: 'stop' });
    expect(remedyName(finding!.remedy!)).toBe('Make it 50.8 mm wide');
    const mended = find(withRemedy(layer, finding!.remedy!), poster(0), size({ widthPx: 600, heightPx: 400 }));
    expect(named(mended, 'resolution')).toBeUndefined();
    expect(named(mended, 'sharp')).toBeDefined();
  });
});
