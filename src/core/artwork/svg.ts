import { SaxesParser, type SaxesAttributeNS, type SaxesTagNS } from 'saxes';
import { invalid } from '../errors';

/** Most elements of an SVG that is taken. */
export const MAX_SVG_ELEMENTS = 60_000;
const SVG_NS = 'http://www.w3.org/2000/svg';
const XLINK_NS = 'http://www.w3.org/1999/xlink';

/** What may stay. Everything else is left out with what it holds, and named. */
const ELEMENTS = new Set(
  `svg g defs symbol use title desc metadata path rect circle ellipse line polyline polygon text tspan textPath
   linearGradient radialGradient stop pattern clipPath mask marker image style switch a`.split(/\s+/),
);
/** Left out without a word: they draw nothing. */
const SILENT = new Set(['title', 'desc', 'metadata']);

export interface CleanSvg {
  readonly svg: string;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What was left out, by name, for the seller to know. */
  readonly leftOut: readonly string[];
  readonly hasText: boolean;
}

const refuse = (says: string) => invalid('svg-refused', `This SVG cannot be used: ${says}.`);

const escapeText = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
const escapeValue = (text: string): string => escapeText(text).replace(/"/g, '&quot;');

/** CSS that fetches or runs: @import, url() to anything but a fragment, expressions. Gives the text without them. */
function cleanCss(css: string, note: (what: string) => void): string {
  return css
    .replace(/@import[^;]*(;|$)/gi, () => (note('@import'), ''))
    .replace(/@font-face\s*\{[^}]*\}/gi, () => (note('@font-face'), ''))
    .replace(/url\(\s*(["']?)(?!#)[^)]*\1\s*\)/gi, () => (note('an outside address in a style'), 'none'))
    .replace(/(expression|javascript:|-moz-binding|behavior\s*:)/gi, () => (note('script in a style'), ''))
    .replace(/filter\s*:[^;}]*/gi, () => (note('filter'), ''));
}

const UNITS: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
  q: 96 / 101.6,
};

/** A CSS length in px of 1/96 in, or null for a percentage or nonsense. */
function cssPx(text: string | undefined): number | null {
  const match = /^\s*([\d.]+(?:e[+-]?\d+)?)\s*(px|pt|pc|mm|cm|in|q)?\s*$/i.exec(text ?? '');
  if (!match) return null;
  const value = Number(match[1]) * UNITS[(match[2] ?? '').toLowerCase()]!;
  return Number.isFinite(value) && value > 0 ? value : null;
}

/**
 * A seller's SVG made safe: rewritten from a list of what may stay, so that it runs nothing, fetches nothing and cannot keep a renderer
 * busy (filters are left out). Throws `svg-refused` for what is no SVG, declares entities, is too large or nests `use` too deep.
 */
export function cleanSvg(text: string): CleanSvg {
  const parser = new SaxesParser({ xmlns: true });
  const out: string[] = [];
  const left = new Set<string>();
  let skipping = 0;
  let inStyle = 0;
  let elements = 0;
  let depth = 0;
  let root: SaxesTagNS | null = null;
  let hasText = false;
  let uses = 0;
  let styleText = '';

  const keepAttribute = (tag: SaxesTagNS, { local, prefix, uri, value, name }: SaxesAttributeNS): string | null => {
    if (prefix === 'xmlns' || name === 'xmlns') return null;
    if (uri !== '' && uri !== XLINK_NS && prefix !== 'xml') return null;
    if (/^on/i.test(local)) {
      left.add('an event handler');
      return null;
    }
    if (local === 'filter') {
      left.add('filter');
      return null;
    }
    if (local === 'href') {
      const inside = value.trim().startsWith('#');
      const picture =
        tag.local === 'image' && /^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=\s]+$/i.test(value.trim());
      if (tag.local === 'a') return null;
      if (!inside && !picture) {
        left.add('a link to something outside');
        return null;
      }
      return `${uri === XLINK_NS ? 'xlink:href' : 'href'}="${escapeValue(value)}"`;
    }
    const css = local === 'style' || /url\(/i.test(value) ? cleanCss(value, (what) => left.add(what)) : value;
    return `${prefix === 'xml' ? 'xml:' : ''}${local}="${escapeValue(css)}"`;
  };

  parser.on('error', (error) => {
    throw refuse(`it is not well-formed XML (${error.message.replace(/^\S+\s/, '')})`);
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype)) throw refuse('it declares entities, which can be a bomb');
  });
  parser.on('opentag', (tag) => {
    depth += 1;
    elements += 1;
    if (elements > MAX_SVG_ELEMENTS)
      throw refuse(`it has more than ${MAX_SVG_ELEMENTS} elements; simplify it or export it as PNG`);
    if (depth > 200) throw refuse('its groups are nested more than 200 deep');
    if (!root) {
      if (tag.local !== 'svg' || (tag.uri !== SVG_NS && tag.uri !== ''))
        throw refuse('its outermost element is not svg');
      root = tag;
    }
    if (skipping > 0) {
      skipping += 1;
      return;
    }
    if ((tag.uri !== SVG_NS && tag.uri !== '') || !ELEMENTS.has(tag.local)) {
      if (tag.uri === SVG_NS || tag.uri === '') left.add(tag.local === 'script' ? 'script' : `<${tag.local}>`);
      skipping = 1;
      return;
    }
    if (SILENT.has(tag.local)) {
      skipping = 1;
      return;
    }
    if (tag.local === 'text') hasText = true;
    if (tag.local === 'use' && (uses += 1) > 2000) throw refuse('it repeats shapes more than 2000 times');
    if (tag.local === 'style') {
      inStyle += 1;
      styleText = '';
    }
    const attributes = Object.values(tag.attributes).map((attribute) => keepAttribute(tag, attribute));
    if (depth === 1) attributes.unshift(`xmlns="${SVG_NS}"`, `xmlns:xlink="${XLINK_NS}"`);
    out.push(
      `<${tag.local}${attributes
        .filter(Boolean)
        .map((a) => ` ${a}`)
        .join('')}>`,
    );
  });
  parser.on('closetag', (tag) => {
    depth -= 1;
    if (skipping > 0) {
      skipping -= 1;
      return;
    }
    if (tag.local === 'style') {
      inStyle -= 1;
      out.push(escapeText(cleanCss(styleText, (what) => left.add(what))));
    }
    out.push(`</${tag.local}>`);
  });
  const takeText = (value: string) => {
    if (skipping > 0 || depth === 0) return;
    if (inStyle > 0) styleText += value;
    else out.push(escapeText(value));
  };
  parser.on('text', takeText);
  parser.on('cdata', takeText);
  parser.write(text).close();
  if (!root) throw refuse('it is empty');

  const svg = out.join('');
  checkUseDepth(svg);
  const attribute = (name: string) => (root as SaxesTagNS).attributes[name]?.value;
  const viewBox = (attribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const box =
    viewBox.length === 4 && viewBox.every(Number.isFinite) && viewBox[2]! > 0 && viewBox[3]! > 0 ? viewBox : null;
  const widthPx = cssPx(attribute('width')) ?? box?.[2] ?? null;
  const heightPx = cssPx(attribute('height')) ?? box?.[3] ?? null;
  if (widthPx === null || heightPx === null) throw refuse('it has neither a size nor a viewBox');
  if (Math.max(widthPx, heightPx) > 100_000)
    throw refuse('it is larger than 100,000 px a side; give it a smaller viewBox');
  if (Math.max(widthPx / heightPx, heightPx / widthPx) > 200)
    throw refuse('it is more than 200 times longer than wide');
  return { svg, widthPx, heightPx, leftOut: [...left].sort(), hasText };
}

/**
 * `use` within what `use` repeats multiplies: a short file can stand for billions of shapes. The number of shapes that each id stands
 * for is counted along its references; a ring or more than 100,000 in all is refused.
 */
function checkUseDepth(svg: string): void {
  const holders = new Map<string, { uses: string[] }>();
  const open: (string | null)[] = [];
  const roots: string[] = [];
  for (const [tag] of svg.matchAll(/<[^>]+>/g)) {
    if (tag.startsWith('</')) {
      open.pop();
      continue;
    }
    const id = /\sid="([^"]*)"/.exec(tag)?.[1] ?? null;
    open.push(id);
    if (id !== null && !holders.has(id)) holders.set(id, { uses: [] });
    if (!tag.startsWith('<use')) continue;
    const target = /href="#([^"]*)"/.exec(tag)?.[1];
    if (target === undefined) continue;
    const around = open.filter((entry): entry is string => entry !== null);
    for (const holder of around) holders.get(holder)!.uses.push(target);
    if (around.length === 0) roots.push(target);
  }
  const counts = new Map<string, number>();
  const count = (id: string, path: Set<string>): number => {
    const known = counts.get(id);
    if (known !== undefined) return known;
    if (path.has(id)) throw refuse('it repeats a shape within itself');
    path.add(id);
    let total = 1;
    for (const target of holders.get(id)?.uses ?? []) {
      total += count(target, path);
      if (total > 100_000) throw refuse('its repeated shapes multiply to more than 100,000');
    }
    path.delete(id);
    counts.set(id, total);
    return total;
  };
  let all = 0;
  for (const target of [...roots, ...holders.keys()]) {
    all += count(target, new Set());
    if (all > 200_000) throw refuse('its repeated shapes multiply to more than 100,000');
  }
}
