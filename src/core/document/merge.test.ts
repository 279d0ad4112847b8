import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newDocument, type ProductDocument } from './document';
import { mergeDocuments } from './merge';

const base: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Tide'),
  variants: { 'size=m': {}, 'size=l': { sku: 'L' } },
};
const words = (part: Partial<ProductDocument['words']['base']>, from = base): ProductDocument => ({
  ...from,
  words: { ...from.words, base: { ...from.words.base, ...part } },
});
const priced = (key: string, amountMinor: number, from = base): ProductDocument => ({
  ...from,
  price: {
    ...from.price,
    base: { ...from.price.base, variants: { [key]: { kind: 'retail', amountMinor } } },
  },
});
const without = (key: string): ProductDocument => {
  const { [key]: _gone, ...variants } = base.variants;
  return { ...base, variants };
};

describe('two documents from one', () => {
  it('keep what only one of them changed', () => {
    const { document, conflicts } = mergeDocuments(base, words({ title: 'Ebb' }), words({ description: 'Flood' }));
    expect(conflicts).toEqual([]);
    expect(document.words.base).toMatchObject({ title: 'Ebb', description: 'Flood' });
  });

  it('have it once where both came to the same: removed, added or set', () => {
    const gone = without('size=m');
    expect(mergeDocuments(base, gone, gone)).toEqual({ document: gone, conflicts: [] });
    const tagged = words({ tags: { t1: { text: 'row', order: 'a0' } } });
    expect(mergeDocuments(base, tagged, structuredClone(tagged))).toEqual({ document: tagged, conflicts: [] });
  });

  it('keep what both put under keys of their own into an object that neither had found', () => {
    const area = (id: string): ProductDocument => ({
      ...base,
      areas: { 'dtg.front': { layers: { [id]: { name: id } as never } } },
    });
    const { document, conflicts } = mergeDocuments(base, area('l1'), area('l2'));
    expect(conflicts).toEqual([]);
    expect(Object.keys(document.areas['dtg.front']!.layers)).toEqual(['l1', 'l2']);
  });

  it.each(['theirs', 'yours'] as const)('tell where both changed the same, and take %s', (side) => {
    const { document, conflicts } = mergeDocuments(
      base,
      words({ title: 'Ebb', description: 'a' }),
      words({ title: 'Flood', tags: { t: { text: 'x', order: 'a0' } } }),
      side,
    );
    expect(conflicts).toEqual([{ path: '/words/base/title', base: 'Tide', theirs: 'Ebb', yours: 'Flood' }]);
    expect(document.words.base).toEqual({
      title: side === 'theirs' ? 'Ebb' : 'Flood',
      description: 'a',
      tags: { t: { text: 'x', order: 'a0' } },
    });
  });

  it('tell when one took away what the other changed', () => {
    const changed = { ...base, variants: { ...base.variants, 'size=l': { sku: 'L2' } } };
    expect(mergeDocuments(base, without('size=l'), changed).conflicts).toEqual([
      { path: '/variants/size=l', base: { sku: 'L' }, theirs: undefined, yours: { sku: 'L2' } },
    ]);
  });

  it('ask about a variant that one took out and the other priced: no price stays without its variant', () => {
    for (const [theirs, yours] of [
      [without('size=m'), priced('size=m', 900)],
      [priced('size=m', 900), without('size=m')],
    ] as const) {
      for (const side of ['theirs', 'yours'] as const) {
        const { document, conflicts } = mergeDocuments(base, theirs, yours, side);
        expect(conflicts.map(({ path }) => path)).toEqual(['/variants/size=m']);
        const kept = (side === 'theirs' ? theirs : yours).variants['size=m'] !== undefined;
        expect('size=m' in document.variants).toBe(kept);
        expect('size=m' in document.price.base.variants).toBe(kept);
      }
    }
  });

  it('tell at most fifty places, among thousands', () => {
    const many = (sku: string) => ({
      ...base,
      variants: Object.fromEntries(Array.from({ length: 4000 }, (_, i) => [`size=${i}`, { sku }])),
    });
    expect(mergeDocuments(many('a'), many('b'), many('c')).conflicts).toHaveLength(50);
  });

  it('whatever they are: each side is kept where the other did nothing, and neither order matters where they do not meet', () => {
    const value = fc.constantFrom('', 'a', 'b', 'c');
    const entries = fc.dictionary(fc.constantFrom('k1', 'k2', 'k3'), fc.record({ text: value, order: value }));
    const document = fc
      .record({ title: value, description: value, tags: entries })
      .map((part) => words(part) as ProductDocument);
    fc.assert(
      fc.property(document, document, document, (from, one, other) => {
        expect(mergeDocuments(from, from, other)).toEqual({ document: other, conflicts: [] });
        expect(mergeDocuments(from, one, from)).toEqual({ document: one, conflicts: [] });
        const [there, here] = [mergeDocuments(from, one, other), mergeDocuments(from, other, one)];
        expect(there.conflicts.map(({ path }) => path).toSorted()).toEqual(
          here.conflicts.map(({ path }) => path).toSorted(),
        );
        if (there.conflicts.length === 0) expect(there.document).toEqual(here.document);
        expect(mergeDocuments(from, one, other, 'yours').document).toEqual(here.document);
      }),
      { seed: 3, numRuns: 400 },
    );
  });
});
