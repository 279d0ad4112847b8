import { describe, expect, it } from 'vitest';
import { at, cellsOf, dragged, holds, moved, pressed, released } from './grid-selection';

const size = { rows: 4, columns: 3 };

describe('marking in a grid', () => {
  it('paints a rectangle from where the pointer went down, whichever way it goes', () => {
    let s = dragged(pressed(null, { row: 2, column: 2 }, false, false), { row: 1, column: 1 })!;
    expect(s.painting).toEqual({ on: true });
    expect(cellsOf(s)).toEqual([
      { row: 1, column: 1 },
      { row: 1, column: 2 },
      { row: 2, column: 1 },
      { row: 2, column: 2 },
    ]);
    s = released(s);
    expect(dragged(s, { row: 3, column: 2 })).toBe(s);
    expect(holds(s, { row: 1, column: 2 })).toBe(true);
    expect(holds(s, { row: 0, column: 2 })).toBe(false);
    expect(holds(null, { row: 0, column: 0 })).toBe(false);
  });

  it('drops where the first cell was chosen, and reaches from the last place with Shift', () => {
    const s = pressed(at({ row: 0, column: 0 }), { row: 2, column: 1 }, true, true);
    expect(s.painting).toEqual({ on: false });
    expect(cellsOf(s)).toHaveLength(6);
  });

  it('goes by arrows, grows with Shift, and stays inside', () => {
    const s = at({ row: 0, column: 0 });
    expect(moved(s, 'ArrowDown', false, size)).toEqual(at({ row: 1, column: 0 }));
    expect(moved(s, 'ArrowLeft', false, size)).toEqual(s);
    const grown = moved(moved(s, 'ArrowRight', true, size)!, 'PageDown', true, size)!;
    expect([grown.anchor, grown.head]).toEqual([
      { row: 0, column: 0 },
      { row: 3, column: 1 },
    ]);
    expect(moved(grown, 'End', false, size)).toEqual(at({ row: 3, column: 2 }));
    expect(moved(s, 'x', false, size)).toBeNull();
  });
});
