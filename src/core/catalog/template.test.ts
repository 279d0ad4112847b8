import { describe, expect, it } from 'vitest';
import { printSizePx, type Geometry } from '../geometry/area';
import { templateSvg } from './template';

const poster = (widthMm: number, heightMm: number, over: Partial<Geometry> = {}): Geometry => ({
  widthMm,
  heightMm,
  outline: null,
  anchor: { xMm: widthMm / 2, yMm: heightMm / 2 },
  bleedMm: 0,
  safeMm: 5,
  dpi: 300,
  technique: 'giclee',
  ...over,
});

describe('a template', () => {
  it('of ISO 216 A2 at 300 DPI is 4961 × 7016 px, in mm of the sheet', () => {
    const svg = templateSvg(poster(420, 594), 'River Poster, Sheet');
    expect(svg).toContain('width="4961" height="7016" viewBox="0 0 420 594"');
  });

  it('holds the bleed around the trim, and lines for trim, bleed, safe margin and outline', () => {
    const geometry = poster(297, 420, { bleedMm: 3, outline: 'M10 10H200V300Z' });
    const svg = templateSvg(geometry, 'A <"& title');
    // ISO 216 A3 with 3 mm on each side: 303 × 426 mm
    expect(svg).toContain('viewBox="-3 -3 303 426"');
    expect(printSizePx(geometry)).toEqual({ widthPx: 3579, heightPx: 5031 });
    for (const id of ['bleed-edge', 'trim', 'safe-margin', 'outline', 'center'])
      expect(svg).toContain(`<g id="${id}">`);
    expect(svg).toContain('<rect x="5" y="5" width="287" height="410"');
    expect(svg).toContain('<title>A &lt;&quot;&amp; title</title>');
  });

  it('of a plain rectangle has no outline', () => {
    expect(templateSvg(poster(100, 100), '')).not.toContain('id="outline"');
  });
});
