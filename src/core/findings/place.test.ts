import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { miniOf } from '../artwork/mini';
import type { Blank } from '../catalog/blank';
import { demoBlank } from '../catalog/sample';
import { newDocument, type Layer } from '../document/document';
import type { Geometry } from '../geometry/area';
import type { Placement } from '../geometry/placement';
import type { ArtworkSize } from './finding';
import { findFindings } from './findings';
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

describe('a strip on a design of several layers and sizes', () => {
  const both = ['color=estuary;size=m', 'color=estuary;size=xxl'];
  const opaque = miniOf({ widthPx: 4, heightPx: 4, rgba: new Uint8Array(64).fill(255) });

  it('is a wedge where a full picture is turned a little, and gone once it is large enough', () => {
    const layer = art(at({ widthMm: 309, rotationDeg: 1.5 }));
    const finding = named(find(layer, poster(3)), 'strip');
    // 309 × 206 mm turned by 1.5°: a corner of the sheet of 306 × 206 lies (306 ÷ 2) sin 1.5° + (206 ÷ 2)(cos 1.5° − 1) beyond the long side.
    expect(finding!.says).toContain('a strip of 4.0 mm bare');
    expect(named(find(withRemedy(layer, finding!.remedy!), poster(3)), 'strip')).toBeUndefined();
    expect(named(find(art(at({ widthMm: 330, rotationDeg: 1.5 })), poster(3)), 'strip')).toBeUndefined();
  });

  it('is not told over a ground that covers it', () => {
    const layers = {
      g: art(at({ widthMm: 309 }), { order: 'a0', artworkId: 'g', name: 'Ground' }),
      l: art(at({ widthMm: 290 }), { order: 'a1' }),
    };
    const look = (groundMini: string | undefined) =>
      findFindings(
        { ...newDocument('b1', 'GBP', 'Poster'), areas: { 'main.front': { layers } }, variants: { [both[0]!]: {} } },
        poster(3),
        { a1: size({ mini: opaque }), g: size({ mini: groundMini }) },
      ).map(({ id }) => id);
    expect(look(opaque)).not.toContain('strip:l');
    // A ground that is transparent there covers nothing.
    expect(look(miniOf({ widthPx: 4, heightPx: 4, rgba: new Uint8Array(64) }))).toContain('strip:l');
  });

  it('is gone on every size after the remedy, whatever the fit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 270, max: 308 }),
        fc.constantFrom('keep', 'fit', 'fill', 'stretch'),
        fc.constantFrom(0, 0, 1, -2),
        (widthMm, fit, rotationDeg) => {
          const layer = art(at({ widthMm, rotationDeg }), { fit: fit as 'keep' });
          const before = named(find(layer, poster(3), size(), both), 'strip');
          if (before)
            expect(named(find(withRemedy(layer, before.remedy!), poster(3), size(), both), 'strip')).toBeUndefined();
        },
      ),
    );
  });
});

describe('the trim', () => {
  const text = (xMm: number, over: Partial<Layer> = {}): Layer =>
    ({
      ...art(at({ xMm, yMm: 100, widthMm: 80 })),
      kind: 'text',
      name: 'Words',
      lettering: {
        text: 'Ebb',
        family: 'rye',
        style: 'regular',
        sizeMm: 20,
        align: 'left',
        tracking: 0,
        lineHeight: 1.2,
        fill: '#1a1c20',
        outline: null,
        arcDeg: 0,
        boxWidthMm: 80,
        boxHeightMm: 30,
        shrinkToMm: null,
        wrap: true,
      },
      ...over,
    }) as Layer;
  const says = (layer: Layer, bleedMm = 3) =>
    findFindings(
      {
        ...newDocument('b1', 'GBP', 'Poster'),
        areas: { 'main.front': { layers: { l: layer } } },
        variants: { 'color=sandbar;size=m': {} },
      },
      poster(bleedMm),
      { a1: size() },
      { l: { missing: [], borrowed: [], fits: true, sizeMm: 20 } },
    ).filter(({ severity }) => severity !== 'note');

  it('that letters cross is told from the first tenth to the end of the bleed, and pulling them inside ends it', () => {
    // The right edge of the letters: 300 mm is the trim, 303 the end of the bleed.
    const cases: [xMm: number, ids: string[]][] = [
      [254, []],
      [257, ['margin:l']],
      [261.1, ['cut:l']],
      [262.9, ['cut:l']],
      [264, ['outside:l']],
    ];
    for (const [xMm, ids] of cases) expect(says(text(xMm)).map(({ id }) => id)).toEqual(ids);
    const [finding] = says(text(261.1));
    expect(finding!.says).toBe('Words runs 1.1 mm over the trim at the right of the front: that part is cut off.');
    expect(says(withRemedy(text(261.1), finding!.remedy!))).toEqual([]);
  });

  it('that a motif crosses is told until it runs to the end of the bleed', () => {
    const motif = (xMm: number) => says(art(at({ xMm, widthMm: 60 }))).map(({ id }) => id);
    expect(motif(272)).toEqual(['cut:l']);
    // 273 + 30 is where the bleed ends: it is meant to run off.
    expect(motif(273)).toEqual([]);
    expect(says(art(at({ widthMm: 320 })))).toEqual([]);
  });

  it('is no trim on goods without bleed', () => {
    expect(says(text(262), 0).map(({ id }) => id)).toEqual(['outside:l']);
  });

  it('is told as outside with fit fill too, unless the picture fills the sheet', () => {
    expect(says(text(290, { fit: 'fill' })).map(({ id }) => id)).toEqual(['outside:l']);
    expect(says(art(at({ xMm: 290, widthMm: 100 }), { fit: 'fill' })).map(({ id }) => id)).toEqual(['outside:l']);
    expect(says(art(at({ widthMm: 400 }), { fit: 'fill' }))).toEqual([]);
    // A band around a mug runs off at both ends.
    const band = (fit: 'fill' | 'keep') =>
      find(art(at({ widthMm: 330 }), { fit }), poster(0), size({ heightPx: 900 })).map(({ id }) => id);
    expect(band('fill')).not.toContain('outside:l');
    expect(band('keep')).toContain('outside:l');
    expect(
      says(text(150, { fit: 'fill', placement: at({ widthMm: 330 }) } as Partial<Layer>)).map(({ id }) => id),
    ).toEqual(['outside:l']);
  });
});

describe('what reaches outside', () => {
  it('comes inside by its remedy, on every size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -30, max: 330 }),
        fc.integer({ min: -20, max: 220 }),
        fc.integer({ min: 40, max: 200 }),
        fc.constantFrom('keep', 'fit', 'fill'),
        (xMm, yMm, widthMm, fit) => {
          const keys = ['color=estuary;size=m', 'color=estuary;size=xxl'];
          const layer = art(at({ xMm, yMm, widthMm }), { fit: fit as 'keep' });
          const before = named(find(layer, poster(0), size(), keys), 'outside');
          if (!before?.remedy) return;
          const after = find(withRemedy(layer, before.remedy), poster(0), size(), keys);
          expect(after.filter(({ severity }) => severity !== 'note')).toEqual([]);
        },
      ),
    );
  });
});

describe('an area that is no rectangle', () => {
  // A pennant: 300 mm long, its point at the right.
  const pennant: Blank = {
    ...poster(0),
    geometries: {
      'g-small': { ...sheet(300, 200, 0), outline: 'M 0 0 L 300 100 L 0 200 Z' },
      'g-large': { ...sheet(300, 200, 0), outline: 'M 0 0 L 300 100 L 0 200 Z' },
    },
  };
  const round = () => {
    const rgba = new Uint8Array(4 * 48 * 48);
    for (let y = 0; y < 48; y += 1)
      for (let x = 0; x < 48; x += 1)
        if (Math.hypot(x - 23.5, y - 23.5) < 24) rgba.set([10, 20, 30, 255], 4 * (y * 48 + x));
    return size({ widthPx: 4000, heightPx: 4000, mini: miniOf({ widthPx: 48, heightPx: 48, rgba }) });
  };
  const logo = (placement: Partial<Placement>) => find(art(at(placement)), pennant, round());
  const ids = (placement: Partial<Placement>) =>
    logo(placement)
      .filter(({ severity }) => severity !== 'note')
      .map(({ id }) => id);

  it('is judged by its outline, not by the box around it', () => {
    expect(ids({ xMm: 100, yMm: 100, widthMm: 60 })).toEqual([]);
    // In the box, beyond the slanting edge: nothing of it is printed.
    expect(ids({ xMm: 265, yMm: 25, widthMm: 40 })).toEqual(['empty:l']);
    expect(ids({ xMm: 220, yMm: 100, widthMm: 60 })).toEqual(['outside:l']);
    const [near] = logo({ xMm: 100, yMm: 68, widthMm: 60 }).filter(({ severity }) => severity !== 'note');
    expect(near!.id).toBe('margin:l');
    const mended = withRemedy(art(at({ xMm: 100, yMm: 68, widthMm: 60 })), near!.remedy!);
    expect(find(mended, pennant, round()).filter(({ severity }) => severity !== 'note')).toEqual([]);
  });

  it('that is covered as a whole is quiet', () => {
    expect(ids({ widthMm: 310 })).toEqual([]);
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
  });
});

describe('words in a picture', () => {
  const words = (top: number, bottom: number) => ({ words: [{ left: 0.2, right: 0.6, top, bottom }] });
  const told = (size: Partial<ArtworkSize>, layer: Layer) =>
    findFindings(
      {
        ...newDocument('b1', 'GBP', ''),
        areas: { 'main.front': { layers: { l: layer } } },
        variants: { 'color=estuary;size=m': {} },
      },
      poster(3),
      { a1: { vector: true, widthPx: 3000, heightPx: 2000, ...size } },
    ).filter(({ severity }) => severity !== 'note');

  it('that come near to the trim, or are cut by it, are told; what was cut off whole is meant', () => {
    // 3:2, 312 mm wide about the middle of 300 × 200: 208 mm high, so that its lower edge lies 4 mm below the trim. A bottom of 0.98 is 204 − 0.02 × 208 = 199.84.
    const over = art(at({ widthMm: 312 }));
    const [near] = told(words(0.9, 0.98), over);
    expect(near).toMatchObject({ id: 'words:l', severity: 'warn' });
    expect(near!.says).toContain('come within 0.2 mm of the edge at the bottom');
    const [cutOff] = told(words(0.9, 0.99), over);
    expect(cutOff!.says).toContain('run 1.9 mm over the edge at the bottom');
    expect(told(words(0.9, 0.95), over)).toEqual([]);
    expect(told(words(0.99, 1), over)).toEqual([]);
    expect(told({}, over)).toEqual([]);
  });

  it('are moved inside where the picture still covers its sheet, and not where it does not', () => {
    // 30 mm more than needed in width: 225 mm high, 12.5 mm to spare at each side of 200.
    const large = art(at({ widthMm: 345 }));
    const [finding] = told(words(0.9, 0.945), large);
    expect(remedyName(finding!.remedy!)).toBe('Move its words inside the margin');
    expect(told(words(0.9, 0.945), withRemedy(large, finding!.remedy!))).toEqual([]);
    expect(told(words(0.9, 0.98), art(at({ widthMm: 312 })))[0]!.remedy).toBeUndefined();
  });
});
