import { describe, expect, it } from 'vitest';
import { alphaBounds, mainColors } from './analysis';
import { contrastRatio, encodeSrgb, formatHex, linearOf8, oklab, parseHex } from './color';

describe('color', () => {
  it('has WCAG 2.2 contrasts: black on white 21, #777777 on white 4.48', () => {
    expect(contrastRatio([0, 0, 0], [255, 255, 255])).toBeCloseTo(21, 9);
    expect(contrastRatio(parseHex('#777777'), [255, 255, 255])).toBeCloseTo(4.48, 2);
  });

  it('goes to linear light and back (IEC 61966-2-1)', () => {
    for (let v = 0; v < 256; v += 1) expect(encodeSrgb(linearOf8[v]!)).toBeCloseTo(v, 9);
    expect(linearOf8[188]).toBeCloseTo(0.5029, 4);
  });

  it('knows OKLab of white and of red (CSS Color Module Level 4: red is 62.8 % 0.22 0.13)', () => {
    expect(oklab([255, 255, 255])[0]).toBeCloseTo(1, 6);
    const [l, a, b] = oklab([255, 0, 0]);
    expect([l.toFixed(3), a.toFixed(2), b.toFixed(2)]).toEqual(['0.628', '0.22', '0.13']);
  });

  it('reads and writes hex', () => {
    expect(formatHex(parseHex('#2d4A53'))).toBe('#2d4a53');
    expect(() => parseHex('teal')).toThrow(/not a color/);
  });
});

describe('analysis', () => {
  const picture = (
    widthPx: number,
    heightPx: number,
    paint: (x: number, y: number) => [number, number, number, number],
  ) => {
    const rgba = new Uint8Array(widthPx * heightPx * 4);
    for (let y = 0; y < heightPx; y += 1)
      for (let x = 0; x < widthPx; x += 1) rgba.set(paint(x, y), (y * widthPx + x) * 4);
    return { widthPx, heightPx, rgba };
  };

  it('finds the box of what is visible', () => {
    const p = picture(40, 30, (x, y) =>
      x >= 5 && x < 17 && y >= 8 && y < 29 ? [10, 20, 30, 255] : [255, 255, 255, 0],
    );
    expect(alphaBounds(p)).toEqual({ left: 5, top: 8, right: 17, bottom: 29 });
    expect(alphaBounds(picture(4, 4, () => [0, 0, 0, 0]))).toBeNull();
  });

  it('finds main colors by share, the same ones each time', () => {
    const p = picture(40, 40, (x, y) => (y < 24 ? [200, 30, 40, 255] : x < 30 ? [20, 60, 200, 255] : [0, 0, 0, 0]));
    const colors = mainColors(p);
    expect(colors).toHaveLength(2);
    expect(colors[0]!.share).toBeCloseTo(960 / 1440, 6);
    expect(Number.parseInt(colors[0]!.hex.slice(1, 3), 16)).toBeGreaterThan(190);
    expect(mainColors(p)).toEqual(colors);
  });
});
