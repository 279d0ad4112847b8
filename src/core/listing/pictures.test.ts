import { describe, expect, it } from 'vitest';
import { sampleLayer } from '../document/sample';
import { demoBlank } from '../catalog/sample';
import { newDocument, type ProductDocument } from '../document/document';
import { checkDocument } from '../document/check';
import { pictureOfColor } from './form';
import { nearDuplicates } from './near-duplicates';
import { altText, defaultSet, fabricOf, planPictures, type StoredShotAbout } from './pictures';

const shot = (id: string, name: string, angle: string, areaKey = 'main.front', size = 'm'): StoredShotAbout => ({
  id,
  contentHash: id,
  document: {
    format: 'typica-shot',
    version: 2,
    code: id,
    name,
    angle,
    widthPx: 1600,
    heightPx: 1600,
    tone: { straightTo: 0.8 },
    passes: { rest: { file: 'rest.png', encoding: 'linear16', scale: 1 } },
    areas: {
      [areaKey]: { variant: { size }, map: { kind: 'traced', file: 'm.png', uMm: [0, 1], vMm: [0, 1] } },
    },
  },
});
const shots = [
  shot('h1', 'Front', 'front'),
  shot('h2', 'Back', 'back', 'main.back'),
  shot('h3', 'Turned', 'turned'),
  shot('h4', 'Chest', 'close-up'),
];
const layer = (name: string) => sampleLayer({ name });
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Tee'),
  areas: { 'main.front': { layers: { l: layer('Tideline') } }, 'main.back': { layers: { l: layer('Crest') } } },
  variants: Object.fromEntries(demoBlank.variants.map((v) => [v.key, {}])),
};
const named = (set: ReturnType<typeof defaultSet<StoredShotAbout>>) => set.map((one) => `${one.shot.id} ${one.color}`);
const photographs = new Map([['p1', { id: 'p1', name: 'On the slipway', sha256: 'x', widthPx: 900, heightPx: 600 }]]);
const world = { blank: demoBlank, shots, artworks: new Map(), photographs };

describe('automatic set', () => {
  it('leaves out a shot that is only to be chosen', () => {
    const own = shots.map((one) =>
      one.id === 'h2' ? { ...one, document: { ...one.document, chosenOnly: true as const } } : one,
    );
    expect(named(defaultSet(doc, demoBlank, own, 20))).toEqual(['h1 estuary', 'h1 sandbar', 'h4 estuary']);
  });

  it('is the main picture first, one for each color, each further angle, one from near, and no step of turning', () => {
    expect(named(defaultSet(doc, demoBlank, shots, 20))).toEqual([
      'h1 estuary',
      'h1 sandbar',
      'h2 estuary',
      'h4 estuary',
    ]);
  });

  it('lets colors give way to angles where there is little room', () => {
    expect(named(defaultSet(doc, demoBlank, shots, 3))).toEqual(['h1 estuary', 'h2 estuary', 'h4 estuary']);
    expect(named(defaultSet(doc, demoBlank, shots, 1))).toEqual(['h1 estuary']);
  });

  it('shows nothing that is not printed or not chosen', () => {
    const front = { ...doc, areas: { 'main.front': doc.areas['main.front']! } };
    expect(named(defaultSet(front, demoBlank, shots, 20))).not.toContain('h2 estuary');
    expect(defaultSet({ ...doc, variants: {} }, demoBlank, shots, 20)).toEqual([]);
    expect(defaultSet({ ...doc, areas: {} }, demoBlank, shots, 20)).toEqual([]);
  });
});

describe('alternative text', () => {
  it('is written from facts: good, color, what is on it, view', () => {
    expect(altText(doc, demoBlank, shots[0]!, 'Estuary')).toBe('Towpath Tee in Estuary with “Tideline”, front');
    expect(altText({ ...doc, areas: {} }, demoBlank, shots[0]!, null)).toBe('Towpath Tee, front');
  });
});

describe('pictures that are chosen', () => {
  const chosen = (pictures: ProductDocument['pictures']['base']) => ({
    ...doc,
    pictures: { base: pictures, stores: {} },
  });

  it('come in their order, own ones among them, with their own words; those of shots that are gone are left out', () => {
    const plans = planPictures(
      chosen({
        a: { shotId: 'h2', color: 'sandbar', order: 'a2' },
        b: { shotId: null, imageId: 'p1', color: 'estuary', order: 'a1', alt: 'A rower in it', main: true },
        c: { shotId: 'gone', color: null, order: 'a0' },
        d: { shotId: 'h1', color: 'estuary', order: 'a3' },
      }),
      world,
      null,
      10,
    );
    expect(plans.map(({ id, alt }) => [id, alt])).toEqual([
      ['b', 'A rower in it'],
      ['a', 'Towpath Tee in Sandbar with “Crest”, back'],
      ['d', 'Towpath Tee in Estuary with “Tideline”, front'],
    ]);
    expect(pictureOfColor(plans, 'estuary')!.id).toBe('b');
    expect(
      pictureOfColor(
        plans.map((plan) => ({ ...plan, main: plan.id === 'd' })),
        'estuary',
      )!.id,
    ).toBe('d');
  });

  it('must name a shot or a photograph, not both', () => {
    const picture = { shotId: 'h1', imageId: 'p1', color: null, order: 'a0' };
    expect(checkDocument(chosen({ a: picture }))[0]!.says).toMatch(/not both/);
    expect(checkDocument(chosen({ a: { ...picture, shotId: null } }))).toEqual([]);
  });

  it('change their key with color and design, and with nothing else', () => {
    const key = (d: ProductDocument, color: string) => planPictures(chosenOf(d, color), world, null, 1)[0]!.key;
    const chosenOf = (d: ProductDocument, color: string) => ({
      ...d,
      pictures: { base: { a: { shotId: 'h1', color, order: 'a0' } }, stores: {} },
    });
    expect(key(doc, 'estuary')).toBe(key({ ...doc, words: newDocument('b1', 'GBP', 'Other').words }, 'estuary'));
    expect(key(doc, 'estuary')).not.toBe(key(doc, 'sandbar'));
  });

  it('show a color without a swatch as paper, and no color that the blank does not have', () => {
    expect(fabricOf(demoBlank, null)).toEqual({ hex: '#ffffff', heather: false, name: null });
    expect(fabricOf(demoBlank, 'puce')).toBeNull();
    const blank = {
      ...demoBlank,
      options: demoBlank.options.map((option) => ({
        ...option,
        values: option.values.map((value) => (value.code === 'sandbar' ? { ...value, hex: null } : value)),
      })),
    };
    expect(fabricOf(blank, 'sandbar')).toEqual({ hex: '#ffffff', heather: false, name: 'Sandbar' });
  });
});

describe('near-duplicates', () => {
  const picture = (id: string, likeness: string | null, tint: string) => ({ id, likeness, tint });
  it('are named by the picture before them; another color is another picture', () => {
    const found = nearDuplicates([
      picture('a', '00ff00ff00ff00ff', '#2d4a53'),
      picture('b', '00ff00ff00ff00fe', '#2e4b54'),
      picture('c', '00ff00ff00ff00ff', '#e6dcc6'),
      picture('d', 'ffff0000ffff0000', '#2d4a53'),
      picture('e', null, '#2d4a53'),
    ]);
    expect([...found]).toEqual([['b', 'a']]);
  });
});
