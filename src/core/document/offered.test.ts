import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { storeLimit } from '../variants/limits';
import { checkDocument } from './check';
import { keysWith, setChosen } from './choosing';
import { newDocument } from './document';
import { asSoldIn, leaveOut, leftOutOf, offerAll, setOffered } from './offered';
import { followProduct, ownParts } from './own-parts';

const all = keysWith(demoBlank, {});
const light = keysWith(demoBlank, { color: 'sandbar' });
const doc = setChosen(newDocument('b1', 'GBP', 'A tee'), all, true);

describe('what a store leaves out', () => {
  it('is sold everywhere else, and can be sold there again', () => {
    const own = setOffered(doc, 's1', light, false);
    expect(checkDocument(own)).toEqual([]);
    expect(leftOutOf(own, 's1')).toEqual(light);
    expect(Object.keys(asSoldIn(own, 's1').variants)).toEqual(keysWith(demoBlank, { color: 'estuary' }));
    expect(asSoldIn(own, 's2')).toBe(own);
    expect(asSoldIn(own, null)).toBe(own);
    expect(setOffered(own, 's1', light, true)).toEqual(doc);
    expect(offerAll(setOffered(own, 's2', light, false), 's1').leftOut).toEqual({
      s2: Object.fromEntries(light.map((key) => [key, true])),
    });
  });

  it('goes with a variant that the product drops: chosen again it is sold everywhere', () => {
    const own = setOffered(doc, 's1', light, false);
    const dropped = setChosen(own, light, false);
    expect(dropped.leftOut).toBeUndefined();
    expect(setChosen(dropped, light, true)).toEqual(doc);
    expect(setOffered(dropped, 's1', light, false)).toEqual(dropped);
    expect(leaveOut(doc, null, light)).toEqual(dropped);
  });

  it('counts no more for what the shop holds', () => {
    const demands = { optionsMax: 2, variantsMax: 3 };
    expect(storeLimit(doc, demoBlank, demands, 'Pennyquay').says).toMatch(/6 are chosen/);
    expect(storeLimit(asSoldIn(leaveOut(doc, 's1', light), 's1'), demoBlank, demands, 'Pennyquay').says).toBeNull();
  });
});

describe('what a store has of its own', () => {
  it('is told by part and given back part by part', () => {
    const words = { base: doc.words.base, stores: { s1: { title: 'Another', tags: {} } } };
    const price = { ...doc.price, stores: { s1: { leastMinor: 900 }, s2: { variants: {} } } };
    const own = leaveOut({ ...doc, words, price }, 's1', light);
    expect(ownParts(own, 's1').map(({ says }) => says)).toEqual([
      '3 variants left out',
      'own prices',
      'own title and tags',
    ]);
    expect(ownParts(own, 's2')).toEqual([]);
    const back = (['variants', 'price', 'words'] as const).reduce((now, part) => followProduct(now, 's1', part), own);
    expect(ownParts(back, 's1')).toEqual([]);
    expect(back.price.stores).toEqual({ s2: { variants: {} } });
  });
});
