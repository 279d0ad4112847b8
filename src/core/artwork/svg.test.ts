import { describe, expect, it } from 'vitest';
import { cleanSvg } from './svg';

const wrap = (inner: string, attributes = 'width="100" height="50"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`;

describe('clean SVG', () => {
  it('keeps shapes, gradients, styles and pictures that it holds itself', () => {
    const { svg, leftOut } = cleanSvg(
      wrap(
        '<style>.a{fill:#123456}</style><defs><linearGradient id="g"><stop offset="0"/></linearGradient></defs><path class="a" fill="url(#g)" d="M0 0L9 9"/><image href="data:image/png;base64,AAAA"/>',
      ),
    );
    expect(svg).toContain('.a{fill:#123456}');
    expect(svg).toContain('fill="url(#g)"');
    expect(svg).toContain('data:image/png;base64,AAAA');
    expect(leftOut).toEqual([]);
  });

  it.each([
    ['script', '<script>alert(1)</script><path d="M0 0"/>', 'script'],
    ['an event handler', '<path onload="x()" d="M0 0"/>', 'an event handler'],
    ['foreign objects', '<foreignObject><p>x</p></foreignObject>', '<foreignObject>'],
    ['outside pictures', '<image href="http://example.invalid/x.png"/>', 'a link to something outside'],
    ['files', '<image xlink:href="file:///etc/passwd"/>', 'a link to something outside'],
    ['pages within data', '<image href="data:text/html;base64,AAAA"/>', 'a link to something outside'],
    ['outside styles', '<style>@import url(http://example.invalid/a.css);</style>', '@import'],
    ['outside fills', '<rect fill="url(http://example.invalid/a#b)"/>', 'an outside address in a style'],
    ['filters', '<filter id="f"><feTurbulence/></filter><rect filter="url(#f)"/>', 'filter'],
    ['animation', '<animate attributeName="x"/>', '<animate>'],
  ])('leaves out %s and says so', (_name, inner, named) => {
    const { svg, leftOut } = cleanSvg(wrap(inner));
    expect(leftOut).toContain(named);
    expect(svg).not.toMatch(/example\.invalid|alert|passwd|feTurbulence|onload|<animate|<p>/);
  });

  it('keeps what was text as text', () => {
    expect(cleanSvg(wrap('<text>a &lt;b&gt; &amp; "c"</text>')).svg).toContain('<text>a &lt;b&gt; &amp; "c"</text>');
    expect(cleanSvg(wrap('<text>x</text>')).hasText).toBe(true);
  });

  it.each([
    ['in px', 'width="100" height="50"', [100, 50]],
    ['in mm (96 px to the inch, CSS)', 'width="25.4mm" height="50.8mm"', [96, 192]],
    ['by its viewBox', 'viewBox="0 0 300 200"', [300, 200]],
    ['by its viewBox where the width is a percentage', 'width="100%" height="100%" viewBox="0 0 30 20"', [30, 20]],
  ])('knows its size %s', (_name, attributes, size) => {
    const { widthPx, heightPx } = cleanSvg(wrap('<path d="M0 0"/>', attributes));
    expect([widthPx, heightPx].map((side) => Math.round(side * 1e6) / 1e6)).toEqual(size);
  });

  it.each([
    [
      'an entity bomb',
      '<!DOCTYPE svg [<!ENTITY a "x"><!ENTITY b "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>',
      /declares entities/,
    ],
    ['a broken file', '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><g>', /not well-formed/],
    ['another XML', '<html/>', /not svg/],
    ['no size', wrap('', ''), /neither a size nor a viewBox/],
    ['a huge viewBox', wrap('', 'viewBox="0 0 1000000 1000000"'), /larger than 100,000/],
    ['a shape within itself', wrap('<g id="a"><use href="#a"/></g>'), /within itself/],
    [
      'a bomb of repeats',
      wrap(
        Array.from(
          { length: 12 },
          (_, i) => `<g id="g${i}">${i === 0 ? '<path d="M0 0"/>' : `<use href="#g${i - 1}"/>`.repeat(10)}</g>`,
        ).join(''),
      ),
      /multiply to more than/,
    ],
    [
      'masks within masks, which are drawn anew for each',
      wrap(
        Array.from(
          { length: 10 },
          (_, i) => `<mask id="m${i}">${`<rect width="9" height="9" mask="url(#m${i - 1})"/>`.repeat(2)}</mask>`,
        ).join('') + '<rect width="9" height="9" mask="url(#m9)"/>',
      ),
      /masks and patterns multiply to more than 400/,
    ],
    ['too deep nesting', wrap('<g>'.repeat(300) + '</g>'.repeat(300)), /nested more than 200/],
  ])('refuses %s', (_name, svg, says) => {
    expect(() => cleanSvg(svg)).toThrow(says);
  });

  it('takes hundreds of clips, gradients and masks that are each used once, as drawing programs write them', () => {
    const parts = Array.from(
      { length: 300 },
      (_, i) =>
        `<clipPath id="c${i}"><path d="M0 0h9v9z"/></clipPath><mask id="m${i}"><path d="M0 0h9v9z"/></mask><g clip-path="url(#c${i})"><path mask="url(#m${i})" d="M0 0h9v9z"/></g>`,
    );
    expect(cleanSvg(wrap(parts.join(''))).leftOut).toEqual([]);
  });

  it('takes addresses out of styles in one pass, however many there are and whether or not they end', () => {
    const { svg } = cleanSvg(
      wrap(`<style>path{fill:url(http://x);mask:url( "#m" );stroke:${'url('.repeat(20_000)}</style><path d="M0 0"/>`),
    );
    expect(svg).not.toContain('url(http');
    expect(svg).toContain('url( "#m" )');
  });

  it('takes entities that stand for short texts, as drawing programs write namespaces', () => {
    const { svg } = cleanSvg(
      '<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x.dtd" [<!ENTITY ns_svg "http://www.w3.org/2000/svg"> <!ENTITY red \'#d2342a\'>]><svg xmlns="&ns_svg;" viewBox="0 0 10 10"><rect width="10" height="10" fill="&red;"/></svg>',
    );
    expect(svg).toContain('fill="#d2342a"');
  });

  it('refuses entities that fetch, nest, are long or grow, and says what to do', () => {
    const document = (declared: string, body = '') =>
      `<!DOCTYPE svg [${declared}]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><text>${body}</text></svg>`;
    for (const declared of [
      '<!ENTITY a SYSTEM "file:///etc/passwd">',
      '<!ENTITY % a "x"> %a;',
      '<!ENTITY a "ab"><!ENTITY b "&a;&a;">',
      `<!ENTITY a "${'x'.repeat(201)}">`,
      Array.from({ length: 101 }, (_, i) => `<!ENTITY a${i} "x">`).join(''),
    ])
      expect(() => cleanSvg(document(declared))).toThrow(/Export it again as plain SVG, simpler, or as PNG\./);
    const grown = document(`<!ENTITY a "${'x'.repeat(200)}">`, '&a;'.repeat(6000));
    expect(() => cleanSvg(grown)).toThrow(/entities grow/);
  });

  it('keeps an SVG that an image of it carries, cleaned as well', () => {
    const inner = (body: string) =>
      Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">${body}</svg>`).toString('base64');
    const outer = (address: string) =>
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><image width="10" height="10" href="${address}"/></svg>`;
    const { svg, leftOut } = cleanSvg(
      outer(`data:image/svg+xml;base64,${inner('<circle r="5"/><script>alert(1)</script>')}`),
    );
    const kept = Buffer.from(/base64,([^"]*)"/.exec(svg)![1]!, 'base64').toString();
    expect(kept).toContain('<circle r="5">');
    expect(kept).not.toContain('script');
    expect(leftOut).toEqual(['script']);
    const nested = outer(
      `data:image/svg+xml;base64,${Buffer.from(outer(`data:image/svg+xml;base64,${inner('')}`)).toString('base64')}`,
    );
    expect(() => cleanSvg(nested)).toThrow(/an SVG within an SVG within an SVG/);
    expect(() => cleanSvg(outer(`data:image/svg+xml;base64,${inner('<text>Ebb</text>')}`))).toThrow(/holds text/);
    expect(() => cleanSvg(outer('data:image/svg+xml,%zz'))).toThrow(/cannot be read/);
  });
});
