import { describe, expect, it } from 'vitest';
import { betweenInList, moved, NONE_TICKED, rectangle, tick } from './choose';

const list = ['p1', 'p2', 'p3', 'p4'];
const between = betweenInList(list);

describe('choosing', () => {
  it('turns one on, and off again', () => {
    const one = tick(NONE_TICKED, 'p2', false, between);
    expect([...one.on]).toEqual(['p2']);
    expect([...tick(one, 'p2', false, between).on]).toEqual([]);
  });

  it('extends from the last one, up or down, as the one that is ticked becomes', () => {
    const down = tick(tick(NONE_TICKED, 'p2', false, between), 'p4', true, between);
    expect([...down.on].sort()).toEqual(['p2', 'p3', 'p4']);
    expect([...tick(down, 'p2', true, between).on]).toEqual([]);
    const up = tick(tick(NONE_TICKED, 'p3', false, between), 'p1', true, between);
    expect([...up.on].sort()).toEqual(['p1', 'p2', 'p3']);
  });

  it('takes the one alone where there is none to extend from, or it is gone', () => {
    expect([...tick(NONE_TICKED, 'p3', true, between).on]).toEqual(['p3']);
    expect([...tick({ on: new Set(), last: 'gone' }, 'p3', true, between).on]).toEqual(['p3']);
  });

  it('takes the rectangle that two places span, of stores alone', () => {
    const of = (a: readonly [number, number], b: readonly [number, number]) =>
      rectangle({ row: a[0], col: a[1] }, { row: b[0], col: b[1] }, list, ['a', 'b', 'c']).sort();
    expect(of([1, 3], [0, 2])).toEqual(['p1:b', 'p1:c', 'p2:b', 'p2:c']);
    expect(of([2, 0], [2, 1])).toEqual(['p3:a']);
    expect(of([2, 0], [3, 0])).toEqual([]);
  });
});

describe('keys', () => {
  const size = { rows: 30, cols: 5, page: 10 };
  const from = { row: 12, col: 2 };
  // As spreadsheets have it; common practice, no source.
  it.each([
    ['ArrowUp', false, [11, 2]],
    ['ArrowDown', true, [29, 2]],
    ['ArrowLeft', true, [12, 0]],
    ['ArrowRight', false, [12, 3]],
    ['Home', false, [12, 0]],
    ['Home', true, [0, 0]],
    ['End', true, [29, 4]],
    ['PageUp', false, [2, 2]],
    ['PageDown', false, [22, 2]],
  ] as const)('%s (Ctrl: %s) leads to %j', (key, far, [row, col]) => {
    expect(moved(from, key, far, size)).toEqual({ row, col });
  });

  it('lead nowhere beyond the edges, and others nowhere at all', () => {
    expect(moved({ row: 0, col: 0 }, 'ArrowUp', false, size)).toEqual({ row: 0, col: 0 });
    expect(moved({ row: 29, col: 4 }, 'PageDown', false, size)).toEqual({ row: 29, col: 4 });
    expect(moved(from, 'x', false, size)).toBeNull();
  });
});
