import { describe, expect, it } from 'vitest';
import { betweenInGrid, betweenInList, cellKey, NONE_TICKED, tick } from './choose';

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

  it('takes the one alone where there is none to extend from, or it is on another page', () => {
    expect([...tick(NONE_TICKED, 'p3', true, between).on]).toEqual(['p3']);
    expect([...tick({ on: new Set(), last: 'gone' }, 'p3', true, between).on]).toEqual(['p3']);
  });

  it('takes the rectangle between two cells', () => {
    const grid = betweenInGrid(list, ['a', 'b', 'c']);
    const first = tick(NONE_TICKED, cellKey('p2', 'c'), false, grid);
    const cells = tick(first, cellKey('p1', 'b'), true, grid);
    expect([...cells.on].sort()).toEqual(['p1:b', 'p1:c', 'p2:b', 'p2:c']);
  });
});
