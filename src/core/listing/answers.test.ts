import { describe, expect, it } from 'vitest';
import { about as broadmere } from '@/adapters/broadmere/about';
import { about as loopstall } from '@/adapters/loopstall/about';
import { about as pennyquay } from '@/adapters/pennyquay/about';
import { demoBlank } from '../catalog/sample';
import { checkAnswers, standingAnswers, withAnswers } from './answers';

describe('standing answers', () => {
  const own = {
    byGood: { [demoBlank.code]: { category: 'wear-tops-tee', attributes: { cloth: 'Cotton' } } },
    warehouse: 'wh-nl',
    brand: 'Brackwater',
  };

  it('answer what a channel asks, and nothing else', () => {
    expect(standingAnswers(own, pennyquay, demoBlank, [])).toMatchObject({ terms: {}, shades: {} });
    expect(standingAnswers(own, loopstall, demoBlank, [])).toMatchObject({
      category: 'wear-tops-tee',
      attributes: { cloth: 'Cotton' },
      terms: { warehouse: 'wh-nl' },
    });
  });

  it('take the exemption of the brand once it is granted, and the partner’s days where none are set', () => {
    const leave = (state: 'asked' | 'granted', brand = 'Brackwater') => [{ id: 'wv-1', brand, state }];
    const terms = (exemptions: ReturnType<typeof leave>, processingDays?: number) =>
      standingAnswers({ ...own, ...(processingDays ? { processingDays } : {}) }, broadmere, demoBlank, exemptions)
        .terms;
    const days = String(demoBlank.makingDays.max);
    expect(terms(leave('asked'))).toEqual({ brand: 'Brackwater', processingDays: days });
    expect(terms(leave('granted'))).toEqual({ brand: 'Brackwater', waiver: 'wv-1', processingDays: days });
    expect(terms(leave('granted', 'Another'), 7)).toEqual({ brand: 'Brackwater', processingDays: '7' });
  });
});

describe('a change of answers', () => {
  const tee = { category: 'tee', attributes: { cloth: 'Cotton' } };
  const mug = { category: 'mug', attributes: {} };

  it('leaves the others as they are, goods too, and takes away what is null', () => {
    const own = { brand: 'Brackwater', warehouse: 'wh', byGood: { tee } };
    expect(withAnswers(own, { byGood: { mug } })).toEqual({ ...own, byGood: { tee, mug } });
    expect(withAnswers(own, { brand: null })).toEqual({ warehouse: 'wh', byGood: { tee } });
    expect(withAnswers(own, { byGood: null })).toEqual({ brand: 'Brackwater', warehouse: 'wh' });
    expect(withAnswers(own, {})).toEqual(own);
  });

  it('is made entry by entry where there are many, and takes away those that are null', () => {
    const charge = { firstMinor: 450, furtherMinor: 150 };
    const own = { shades: { coal: 'Black' }, shippingByClass: { shirt: charge } };
    expect(withAnswers(own, { shades: { kelp: 'Green' }, shippingByClass: { mug: charge } })).toEqual({
      shades: { coal: 'Black', kelp: 'Green' },
      shippingByClass: { shirt: charge, mug: charge },
    });
    expect(withAnswers(own, { shades: { coal: null }, shippingByClass: { shirt: null } })).toEqual({
      shades: {},
      shippingByClass: {},
    });
  });
});

describe('what can be kept as answers', () => {
  it.each([
    [{}, []],
    [{ brand: 'Brackwater', processingDays: 60, byGood: { tee: { category: null, attributes: {} } } }, []],
    [{ processingDays: 61 }, ['processingDays']],
    [{ processingDays: 1.5 }, ['processingDays']],
    [{ brand: ' ' }, ['brand']],
    [{ brand: 'x'.repeat(81) }, ['brand']],
    [{ byGood: { tee: { category: 'c', attributes: { cloth: 5 } } } }, ['byGood']],
    [{ byGood: { tee: { category: 'c', attributes: {}, more: 1 } } }, ['byGood']],
    [{ byGood: [] }, ['byGood']],
    [{ shades: { estuary: '' } }, ['shades']],
    [{ shades: { estuary: null }, shippingByClass: { shirt: { firstMinor: 0, furtherMinor: 0 }, mug: null } }, []],
    [{ shippingByClass: { shirt: { firstMinor: -1, furtherMinor: 0 } } }, ['shippingByClass']],
    [{ shippingByClass: { shirt: { firstMinor: 4.5, furtherMinor: 0 } } }, ['shippingByClass']],
    [{ shippingByClass: { shirt: { firstMinor: 450 } } }, ['shippingByClass']],
    [{ shippingByClass: { shirt: { firstMinor: 450, furtherMinor: 0, more: 1 } } }, ['shippingByClass']],
    [JSON.parse('{"__proto__": {"brand": "x"}}'), ['__proto__']],
    [{ color: 'red' }, ['color']],
    [null, ['object']],
    [[], ['object']],
  ])('%j', (value, words) => {
    const faults = checkAnswers(value);
    expect(faults).toHaveLength(words.length);
    for (const [i, word] of words.entries()) expect(faults[i]).toContain(word);
  });
});
