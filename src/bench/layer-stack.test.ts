import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newRaster, type Raster } from '@/core/print/pixels';
import { drawAffine } from '@/core/print/raster';
import { LayerStack } from './layer-stack';

const SIZE = { widthPx: 24, heightPx: 24 };
interface Square {
  readonly x: number;
  readonly y: number;
  readonly rgba: readonly [number, number, number, number];
}
/** A square of 10 px of one color, premultiplied. */
function source({ rgba: [r, g, b, a] }: Square): Raster {
  const raster = newRaster(10, 10);
  const color = [r, g, b].map((c) => Math.round((c * a) / 255));
  for (let i = 0; i < raster.data.length; i += 4) raster.data.set([...color, a], i);
  return raster;
}
const drawer = (squares: readonly Square[], drawn: number[]) => (i: number, target: Raster) => {
  drawn.push(i);
  drawAffine(target, source(squares[i]!), { a: 1, b: 0, c: 0, d: 1, e: squares[i]!.x, f: squares[i]!.y });
};
const keysOf = (squares: readonly Square[]) => squares.map((square) => JSON.stringify(square));
const byte = fc.nat(255);
const square: fc.Arbitrary<Square> = fc.record({
  x: fc.integer({ min: -4, max: 20 }),
  y: fc.integer({ min: -4, max: 20 }),
  rgba: fc.tuple(byte, byte, byte, byte),
});

describe('a stack of layers', () => {
  it('looks as if each were drawn over the one below, whichever is moved', () => {
    fc.assert(
      fc.property(
        fc.array(square, { minLength: 1, maxLength: 6 }),
        fc.array(fc.tuple(fc.nat(), square), { minLength: 1, maxLength: 8 }),
        (squares, moves) => {
          const stack = new LayerStack();
          let now = squares;
          for (const [at, to] of [[0, squares[0]!] as const, ...moves]) {
            now = now.map((one, i) => (i === at % now.length ? to : one));
            const ours = stack.draw('', keysOf(now), SIZE, drawer(now, []));
            const all = newRaster(SIZE.widthPx, SIZE.heightPx);
            for (let i = 0; i < now.length; i += 1) drawer(now, [])(i, all);
            // Laying several over as one rounds once more for each channel.
            const most = ours.data.reduce((so, value, i) => Math.max(so, Math.abs(value - all.data[i]!)), 0);
            expect(most).toBeLessThanOrEqual(2);
          }
        },
      ),
      { numRuns: 60, seed: 4 },
    );
  });

  it('draws only what is moved, once it knows which', () => {
    const squares = [0, 1, 2, 3].map((i): Square => ({ x: i * 4, y: i * 4, rgba: [200, 30 * i, 60, 255] }));
    const stack = new LayerStack();
    const draw = (x: number) => {
      const now = squares.map((one, i) => (i === 1 ? { ...one, x } : one));
      const drawn: number[] = [];
      stack.draw('', keysOf(now), SIZE, drawer(now, drawn));
      return drawn;
    };
    expect([draw(4), draw(5), draw(6), draw(7)]).toEqual([[0, 1, 2, 3], [0, 2, 3, 1], [1], [1]]);
  });

  it('draws all anew at another size', () => {
    const squares: Square[] = [
      { x: 0, y: 0, rgba: [255, 0, 0, 255] },
      { x: 5, y: 5, rgba: [0, 255, 0, 128] },
    ];
    const stack = new LayerStack();
    const drawn = (of: string, size = SIZE) => {
      const list: number[] = [];
      const { widthPx } = stack.draw(of, keysOf(squares), size, drawer(squares, list));
      return [widthPx, list];
    };
    expect(drawn('a')).toEqual([24, [0, 1]]);
    expect(drawn('b', { widthPx: 48, heightPx: 48 })).toEqual([48, [0, 1]]);
  });
});
