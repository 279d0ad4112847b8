import { describe, expect, it } from 'vitest';
import { cutAtWord, slugOf } from './cut';

describe('a text cut at a word', () => {
  it.each([
    ['Crossed Blades tee', 18, 'Crossed Blades tee'],
    ['Crossed Blades tee', 17, 'Crossed Blades'],
    ['Crossed Blades tee', 14, 'Crossed Blades'],
    ['Crossed Blades tee', 13, 'Crossed'],
    ['Crossed, Blades', 10, 'Crossed'],
    ['Tea & cake', 6, 'Tea'],
    ['Unbreakable', 5, 'Unbre'],
    ['👩‍👩‍👧 family of rowers', 9, '👩‍👩‍👧 family'],
    ['', 5, ''],
  ])('“%s” to %i is “%s”', (text, max, cut) => {
    expect(cutAtWord(text, max)).toBe(cut);
  });
});

describe('a text as an address', () => {
  it.each([
    ['Crossed Blades tee', 'crossed-blades-tee'],
    ['Cox’s Orders — “now”!', 'cox-s-orders-now'],
    ['Straße über Ångström', 'strasse-uber-angstrom'],
    ['赤い船', ''],
    ['--a--', 'a'],
  ])('“%s” is “%s”', (text, slug) => {
    expect(slugOf(text, 80)).toBe(slug);
  });

  it('ends with no hyphen where it is cut', () => {
    expect(slugOf('aaaa bbbb', 5)).toBe('aaaa');
  });
});
