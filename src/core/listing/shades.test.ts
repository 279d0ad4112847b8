import { describe, expect, it } from 'vitest';
import { about as broadmere } from '@/adapters/broadmere/about';
import { demoBlank } from '../catalog/sample';
import { standingAnswers } from './answers';
import { nearestShade, proposedShade, shadeAnswers, unnamedSays } from './shades';

const shades = broadmere.demands.shades!;
const color = (name: string, hex: string | null) => ({
  options: [
    {
      ...{ code: 'color', name: 'Color', pieceCode: null },
      values: [
        { code: 'one', name, hex },
        { code: 'other', name: 'Other', hex: '#ffffff' },
      ],
    },
  ],
});
const answerFor = (name: string, hex: string | null, choices = {}) =>
  shadeAnswers(color(name, hex), shades, choices)[0]!;

describe('a shop’s name for a color', () => {
  it.each([
    ['#0a0a0a', 'Black'],
    ['#fdfdfb', 'White'],
    ['#20304f', 'Navy'],
    ['#7a1f2b', 'Burgundy'],
    ['#1d7f80', 'Teal'],
    ['#f4d03f', 'Yellow'],
  ])('for %s is %s: what a person would call it (from memory)', (hex, name) => {
    expect(answerFor('It', hex)).toMatchObject({ shade: name, chosenBy: null });
  });

  it('is the first of two that are as near', () => {
    const twice = ['One', 'Two'].map((name) => ({ name, hex: '#123456' }));
    expect(nearestShade('#123456', twice)).toEqual({ name: 'One', difference: 0 });
    expect(shadeAnswers(color('It', '#123456'), [], {})).toEqual([]);
  });

  it('is not taken by itself where none looks like it: a dark gray that is nearest to a purple', () => {
    const smoke = answerFor('Smoke', '#55595c');
    expect(smoke).toMatchObject({ shade: null, nearest: { name: 'Purple' } });
    expect(unnamedSays(smoke, 'Broadmere')).toMatch(/^Smoke has no name on Broadmere .* Purple, differs by 17\.\d/);
    expect(proposedShade(smoke, shades)).toBe('Gray');
    expect(unnamedSays(answerFor('Stripe', null), 'Broadmere')).toMatch(/^Stripe has no swatch/);
  });

  it('is the product’s choice, else the store’s, and none that the shop has not', () => {
    const store = { one: 'Black' };
    expect(answerFor('Smoke', '#55595c', { store })).toMatchObject({ shade: 'Black', chosenBy: 'store' });
    expect(answerFor('Smoke', '#55595c', { store, product: { one: 'Gray' } })).toMatchObject({
      shade: 'Gray',
      chosenBy: 'product',
    });
    expect(answerFor('Smoke', '#55595c', { store, product: { one: 'Mauve' } }).shade).toBe('Black');
  });

  it('is proposed for a color without a swatch by a word of its own name, whole', () => {
    expect(proposedShade({ name: 'Sky stripe', hex: null }, shades)).toBe('Sky');
    expect(proposedShade({ name: 'Skylight', hex: null }, shades)).toBeNull();
  });

  it('is in the answers of the store for each color that has one', () => {
    const colors = demoBlank.options.find(({ code }) => code === 'color')!.values;
    const named = standingAnswers({ shades: { estuary: 'Teal', coal: 'Mauve' } }, broadmere, demoBlank, []).shades;
    expect(Object.keys(named).sort()).toEqual(colors.map(({ code }) => code).sort());
    expect(named.estuary).toBe('Teal');
    expect(standingAnswers({}, broadmere, demoBlank, []).shades).not.toHaveProperty('estuary');
    expect(standingAnswers({}, broadmere, demoBlank, [], { estuary: 'Blue' }).shades.estuary).toBe('Blue');
  });
});
