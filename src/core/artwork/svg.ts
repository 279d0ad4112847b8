import { SaxesParser, type SaxesAttributeNS, type SaxesTagNS } from 'saxes';
import { invalid } from '../errors';
import { ownEntry, putEntry } from '../own-entry';

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

const refuse = (says: string) =>
  invalid('svg-refused', `This SVG cannot be used: ${says}. Export it again as plain SVG, simpler, or as PNG.`);

/** Entities that a document may declare for itself, as some drawing programs write namespaces: short texts, and not many. */
const MOST_ENTITIES = 100;
const MOST_ENTITY = 200;
const MOST_EXPANDED = 1_000_000;

/** The entities of a document type that stand for plain text. Throws `svg-refused` for those that fetch, nest or would grow too much. */
function entitiesOf(doctype: string, document: string): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  let expanded = 0;
  for (const [, declared] of doctype.matchAll(/<!ENTITY\s+([^>]*)/gi)) {
    const parts = /^([A-Za-z_][\w.-]{0,60})\s+(?:"([^"]*)"|'([^']*)')\s*$/.exec(declared!.trim());
    const value = parts?.[2] ?? parts?.[3];
    if (!parts || value === undefined || /[&%<]/.test(value) || value.length > MOST_ENTITY)
      throw refuse('it declares entities that fetch, nest or are long');
    found.set(parts[1]!, value);
    if (found.size > MOST_ENTITIES) throw refuse(`it declares more than ${MOST_ENTITIES} entities`);
  }
  for (const [, name] of document.matchAll(/&([A-Za-z_][\w.-]{0,60});/g)) expanded += found.get(name!)?.length ?? 0;
  if (expanded > MOST_EXPANDED) throw refuse('its entities grow to more than a million characters');
  return found;
}

/** An SVG within an SVG, as `image` carries it: base64 or percent-encoded. Null for what is none. */
function innerSvg(address: string): string | null {
  const parts = /^data:image\/svg\+xml((?:;[\w=-]+)*),([\s\S]*)$/i.exec(address.trim());
  if (!parts) return null;
  try {
    if (!/;base64/i.test(parts[1]!)) return decodeURIComponent(parts[2]!);
    const bytes = Uint8Array.from(atob(parts[2]!.replace(/\s/g, '')), (letter) => letter.charCodeAt(0));
    return new TextDecoder().decode(bytes);
  } catch {
    throw refuse('the SVG within it cannot be read');
  }
}

const asBase64 = (text: string): string => {
  let bytes = '';
  for (const byte of new TextEncoder().encode(text)) bytes += String.fromCharCode(byte);
  return btoa(bytes);
};

const escapeText = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
const escapeValue = (text: string): string => escapeText(text).replace(/"/g, '&quot;');

/** CSS in which every `url(…)` that is no fragment of the document is `none`; what is not closed is left out to its end. In one pass. */
function withoutAddresses(css: string, note: () => void): string {
  const small = css.toLowerCase();
  let clean = '';
  let from = 0;
  for (let at = small.indexOf('url('); at >= 0; at = small.indexOf('url(', from)) {
    const end = css.indexOf(')', at);
    const inside = css.slice(at + 4, end < 0 ? undefined : end).trim();
    const keeps = end >= 0 && /^["']?#/.test(inside);
    clean += css.slice(from, at) + (keeps ? css.slice(at, end + 1) : 'none');
    if (!keeps) note();
    if (end < 0) return clean;
    from = end + 1;
  }
  return clean + css.slice(from);
}

/** CSS that fetches or runs: @import, url() to anything but a fragment, expressions. Gives the text without them. */
function cleanCss(css: string, note: (what: string) => void): string {
  return withoutAddresses(css, () => note('an outside address in a style'))
    .replace(/@import[^;]*(;|$)/gi, () => (note('@import'), ''))
    .replace(/@font-face[^}]*(\}|$)/gi, () => (note('@font-face'), ''))
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
  const match = /^([\d.]+(?:e[+-]?\d+)?)\s*(px|pt|pc|mm|cm|in|q)?$/i.exec((text ?? '').trim());
  if (!match) return null;
  const value = Number(match[1]) * ownEntry(UNITS, (match[2] ?? '').toLowerCase())!;
  return Number.isFinite(value) && value > 0 ? value : null;
}

/**
 * A seller's SVG made safe: rewritten from a list of what may stay, so that it runs nothing, fetches nothing and cannot keep a renderer
 * busy (filters are left out). Throws `svg-refused` for what is no SVG, declares entities that are more than short texts, is too large or nests `use` too deep.
 * An SVG that an image of it carries is cleaned as well (`isInner`), one deep.
 */
export function cleanSvg(text: string, isInner = false): CleanSvg {
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

  const cleanInner = (inner: string): string => {
    if (isInner) throw refuse('an SVG within an SVG within an SVG');
    const clean = cleanSvg(inner, true);
    if (clean.hasText) throw refuse('the SVG within it holds text; convert that to outlines');
    for (const what of clean.leftOut) left.add(what);
    return clean.svg;
  };
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
      const inner = tag.local === 'image' ? innerSvg(value) : null;
      if (inner !== null) return `xlink:href="data:image/svg+xml;base64,${asBase64(cleanInner(inner))}"`;
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
    if (!/<!ENTITY/i.test(doctype)) return;
    for (const [name, value] of entitiesOf(doctype, text)) putEntry(parser.ENTITIES, name, value);
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
  const attribute = (name: string) => ownEntry((root as SaxesTagNS).attributes, name)?.value;
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

/** Shapes that a file may stand for in all, and surfaces: what a mask, a pattern or a filter is drawn on apart. */
const MOST_SHAPES = 100_000;
const MOST_SURFACES = 400;

/** An element with an id: what it repeats, and whether it is drawn on a surface of its own wherever it is referred to. */
interface Holder {
  readonly uses: string[];
  readonly paints: string[];
  readonly isSurface: boolean;
}

const SURFACE = /^<(mask|pattern|filter)\b/;

/** Ids that a tag repeats (`use`), and those that it is painted or masked with. */
function targetsOf(tag: string): { uses: string[]; paints: string[] } {
  const used = tag.startsWith('<use') ? /href="#([^"]*)"/.exec(tag)?.[1] : undefined;
  const paints = [...tag.matchAll(/url\((?:["']|&quot;)?#([^"'&)]*)/g)].map(([, id]) => id!);
  return { uses: used === undefined ? [] : [used], paints };
}

function holdersOf(svg: string): { holders: Map<string, Holder>; roots: Holder } {
  const holders = new Map<string, Holder>();
  const roots: Holder = { uses: [], paints: [], isSurface: false };
  const open: (string | null)[] = [];
  for (const [tag] of svg.matchAll(/<[^<>]+>/g)) {
    if (tag.startsWith('</')) {
      open.pop();
      continue;
    }
    const id = /\sid="([^"]*)"/.exec(tag)?.[1] ?? null;
    if (id !== null && !holders.has(id)) holders.set(id, { uses: [], paints: [], isSurface: SURFACE.test(tag) });
    const { uses, paints } = targetsOf(tag);
    // What an element is painted with belongs to what is around it; of a `use` so does what it repeats.
    const around = [...open, id].flatMap((entry) => (entry === null ? [] : [holders.get(entry)!]));
    for (const holder of around.length > 0 ? around : [roots]) {
      for (const target of uses) holder.uses.push(target);
      for (const target of paints) holder.paints.push(target);
    }
    if (!tag.endsWith('/>')) open.push(id);
  }
  return { holders, roots };
}

interface Weight {
  readonly shapes: number;
  readonly surfaces: number;
}

/**
 * What repeats or masks within what is repeated or masked multiplies: a short file can stand for billions of shapes, or for hours of drawing. Both
 * are counted along references; a ring, or more than there may be in all, is refused.
 */
function checkUseDepth(svg: string): void {
  const { holders, roots } = holdersOf(svg);
  const weights = new Map<string, Weight>();
  const tooMany = (what: string, most: number) =>
    refuse(`its repeated ${what} multiply to more than ${most.toLocaleString('en')}`);
  const sum = (holder: Holder, path: Set<string>): Weight => {
    let [shapes, surfaces] = [1, 0];
    const add = (id: string, surface: boolean) => {
      const one = weigh(id, path);
      shapes += surface ? 0 : one.shapes;
      surfaces += one.surfaces + (surface ? 1 : 0);
      if (shapes > MOST_SHAPES) throw tooMany('shapes', MOST_SHAPES);
      if (surfaces > MOST_SURFACES) throw tooMany('masks and patterns', MOST_SURFACES);
    };
    for (const target of holder.uses) add(target, false);
    for (const target of holder.paints) if (holders.get(target)?.isSurface) add(target, true);
    return { shapes, surfaces };
  };
  const weigh = (id: string, path: Set<string>): Weight => {
    const known = weights.get(id);
    if (known) return known;
    const holder = holders.get(id);
    if (!holder) return { shapes: 1, surfaces: 0 };
    if (path.has(id)) throw refuse('it repeats a shape within itself');
    path.add(id);
    const weight = sum(holder, path);
    path.delete(id);
    weights.set(id, weight);
    return weight;
  };
  let all = sum(roots, new Set()).shapes;
  for (const id of holders.keys()) {
    all += weigh(id, new Set()).shapes;
    if (all > 2 * MOST_SHAPES) throw tooMany('shapes', MOST_SHAPES);
  }
}
