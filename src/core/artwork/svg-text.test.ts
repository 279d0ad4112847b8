import { describe, expect, it } from 'vitest';
import { cleanSvg } from './svg';
import { findSvgTexts, withOutlines } from './svg-text';

const svg = (body: string) =>
  cleanSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">${body}</svg>`).svg;
const find = (body: string) => findSvgTexts(svg(body));
const lines = (body: string) =>
  find(body).texts.flatMap((text) =>
    text.lines.map((line) => [line.x, line.y, line.anchor, line.spans.map((span) => span.text).join('|')]),
  );

describe('text in an SVG', () => {
  it('is found with its place, size, style and font, inherited or by rule', () => {
    const { texts } = find(
      '<style>.loud{font-weight:bold;font-family:"Zilla Slab"}</style><g font-size="20" font-family="Noto Sans, sans-serif"><text x="5" y="30">Ebb</text><text class="loud" style="font-size:12pt;font-style:italic" y="60">Flood</text></g>',
    );
    expect(texts.map((text) => text.lines[0]!.spans[0])).toMatchObject([
      { text: 'Ebb', family: 'noto-sans', style: 'regular', sizePx: 20 },
      // 12 pt of 96 px to the inch are 16 px
      { text: 'Flood', family: 'zilla-slab', style: 'bold-italic', sizePx: 16 },
    ]);
  });

  it('stands on lines by its spans, with spaces as a browser takes them', () => {
    expect(
      lines(
        '<text x="10" y="20" text-anchor="middle">  Ebb\n  and <tspan fill="#f00">flood</tspan>  <tspan x="10" y="40">later</tspan></text>',
      ),
    ).toEqual([
      [10, 20, 'middle', 'Ebb and |flood'],
      [10, 40, 'middle', 'later'],
    ]);
    expect(
      find('<text font-size="10"><tspan x="0" dy="1.2em">a</tspan></text>').texts[0]!.lines[1]!.spans[0]!.dy,
    ).toBeCloseTo(12, 9);
  });

  it('in a font that is not here is set in one of ours, and the font is named', () => {
    const found = find('<text font-family="Quayside Grotesk">x</text><text font-family="serif">y</text>');
    expect(found.missingFonts).toEqual(['Quayside Grotesk']);
    expect(found.texts.map((text) => text.lines[0]!.spans[0]!.family)).toEqual(['noto-sans', 'eb-garamond']);
  });

  it('along a path stays', () => {
    expect(find('<text><textPath href="#p">round</textPath></text>')).toMatchObject({ texts: [], alongPath: true });
  });

  it('becomes outlines in its place; all else stays as it was', () => {
    const source = svg(
      '<rect width="5" height="5"/><text x="10" y="20" fill="#123456" transform="rotate(3)" font-size="8">a<tspan fill="#ff0000">b</tspan></text><circle r="1"/>',
    );
    const { texts } = findSvgTexts(source);
    const out = withOutlines(source, texts, (span) => ({ pathData: `M0 0L${span.text === 'a' ? 1 : 2} 0`, width: 4 }));
    expect(out).not.toContain('<text');
    expect(out).toContain('<rect width="5" height="5"></rect><g fill="#123456" transform="rotate(3)">');
    expect(out).toContain('<path transform="translate(10 20)" d="M0 0L1 0"></path>');
    expect(out).toContain('<path transform="translate(14 20)" fill="#ff0000" d="M0 0L2 0"></path></g><circle r="1">');
    expect(cleanSvg(out).hasText).toBe(false);
  });

  it('is set from its middle or its end where it is anchored there', () => {
    const place = (anchor: string) => {
      const source = svg(`<text x="100" y="0" text-anchor="${anchor}">a</text>`);
      return /translate\(([\d.]+)/.exec(
        withOutlines(source, findSvgTexts(source).texts, () => ({ pathData: '', width: 30 })),
      )![1];
    };
    expect([place('start'), place('middle'), place('end')]).toEqual(['100', '85', '70']);
  });
});
