import { describe, expect, it } from 'vitest';
import { demoBlank, demoList } from '@/core/catalog/sample';
import { setChosen } from '@/core/document/choosing';
import { newDocument } from '@/core/document/document';
import { moveValue } from '@/core/variants/order';
import { canChoose, gridView, tierLetters } from './view';

const doc = setChosen(newDocument('b1', 'GBP', 'Tee'), ['color=estuary;size=m'], true);

describe('the grid of variants', () => {
  it('has colors down and sizes across, with cost, tier and stock in each cell', () => {
    const { rowOption, columnOption, rows, columns, cells } = gridView(doc, demoBlank, demoList, {});
    expect([rowOption!.code, columnOption!.code, rows.length, columns.length]).toEqual(['color', 'size', 2, 3]);
    const estuary = cells[rows.findIndex((row) => row!.code === 'estuary')]!;
    expect(estuary.map(({ chosen, cost, tier, stock }) => [chosen, cost, tier, stock])).toEqual([
      [false, '7.40', 'A', '250'],
      [true, '7.40', 'A', '250'],
      [false, '8.90', 'B', '250'],
    ]);
  });

  it('follows the seller’s order', () => {
    const moved = moveValue(doc, demoBlank.options[1]!, 'xxl', -2);
    expect(gridView(moved, demoBlank, demoList, {}).columns.map((column) => column!.code)).toEqual(['xxl', 's', 'm']);
  });

  it('has further options as tabs, and tells what is out, ended or not made', () => {
    const frame = {
      code: 'frame',
      name: 'Frame',
      pieceCode: null,
      values: ['oak', 'ash'].map((code) => ({ code, name: code, hex: null })),
    };
    const variants = demoBlank.variants.flatMap((v) =>
      frame.values.map(({ code }) => ({
        ...v,
        key: `${v.key};frame=${code}`,
        values: { ...v.values, frame: code },
        inStock: code === 'oak',
        ended: v.values.size === 's',
      })),
    );
    const blank = { ...demoBlank, options: [...demoBlank.options, frame], variants: variants.slice(1) };
    const ash = gridView(doc, blank, demoList, { frame: 'ash' });
    expect(ash.tabs.map((tab) => tab.code)).toEqual(['frame']);
    expect(new Set(ash.cells.flat().map((cell) => cell.state))).toEqual(new Set(['ended', 'out']));
    expect(ash.cells.flat().filter(canChoose)).toHaveLength(4);
    expect(
      gridView(doc, blank, demoList, {})
        .cells.flat()
        .some((cell) => cell.state === 'none'),
    ).toBe(true);
  });

  it('letters tiers from the cheapest', () => {
    expect([...tierLetters(demoBlank, demoList)]).toEqual([
      [740, 'A'],
      [890, 'B'],
    ]);
  });
});
