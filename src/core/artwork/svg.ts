import { SaxesParser, type SaxesAttributeNS, type SaxesTagNS } from 'saxes';
import { invalid } from '../errors';
import { ownEntry, putEntry } from '../own-entry';
import { tooHeavy } from './svg-weight';

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
const MAX_ENTITIES = 100;
const MAX_ENTITY = 200;
const MAX_EXPANDED = 1_000_000;

/** The entities of a document type that stand for plain text. Throws `svg-refused` for those that fetch, nest or would grow too much. */
function entitiesOf(doctype: string, document: string): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  let expanded = 0;
  for (const [, declared] of doctype.matchAll(/<!ENTITY\s+([^>]*)/gi)) {
    const parts = /^([A-Za-z_][\w.-]{0,60})\s+(?:"([^"]*)"|'([^']*)')\s*$/.exec(declared!.trim());
    const value = parts?.[2] ?? parts?.[3];
    if (!parts || value === undefined || /[&%<]/.test(value) || value.length > MAX_ENTITY)
      throw refuse('it declares entities that fetch, nest or are long');
    found.set(parts[1]!, value);
    if (found.size > MAX_ENTITIES) throw refuse(`it declares more than ${MAX_ENTITIES} entities`);
  }
  for (const [, name] of document.matchAll(/&([A-Za-z_][\w.-]{0,60});/g)) expanded += found.get(name!)?.length ?? 0;
  if (expanded > MAX_EXPANDED) throw refuse('its entities grow to more than a million characters');
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
  const cleaner = new SvgCleaner(isInner);
  const root = cleaner.read(text);
  const svg = cleaner.written();
  const heavy = tooHeavy(svg);
  if (heavy !== null) throw refuse(heavy);
  return { svg, ...sizeOf(root), leftOut: cleaner.leftOut(), hasText: cleaner.hasText };
}

/** Reads an SVG and writes what may stay of it. */
class SvgCleaner {
  hasText = false;
  private readonly out: string[] = [];
  private readonly left = new Set<string>();
  /** How deep within something that is left out. */
  private skipping = 0;
  private inStyle = 0;
  private styleText = '';
  private elements = 0;
  private depth = 0;
  private uses = 0;
  private root: SaxesTagNS | null = null;
  private readonly note = (what: string): void => void this.left.add(what);

  constructor(private readonly isInner: boolean) {}

  written = (): string => this.out.join('');
  leftOut = (): string[] => [...this.left].sort();

  /** Takes in a whole document; gives its outermost element. */
  read(text: string): SaxesTagNS {
    const parser = new SaxesParser({ xmlns: true });
    parser.on('error', (error) => {
      throw refuse(`it is not well-formed XML (${error.message.replace(/^\S+\s/, '')})`);
    });
    parser.on('doctype', (doctype) => {
      if (!/<!ENTITY/i.test(doctype)) return;
      for (const [name, value] of entitiesOf(doctype, text)) putEntry(parser.ENTITIES, name, value);
    });
    parser.on('opentag', (tag) => this.open(tag));
    parser.on('closetag', (tag) => this.close(tag));
    parser.on('text', (value) => this.takeText(value));
    parser.on('cdata', (value) => this.takeText(value));
    parser.write(text).close();
    if (!this.root) throw refuse('it is empty');
    return this.root;
  }

  private open(tag: SaxesTagNS): void {
    this.count(tag);
    if (this.skipping > 0) {
      this.skipping += 1;
      return;
    }
    const own = tag.uri === SVG_NS || tag.uri === '';
    if (!own || !ELEMENTS.has(tag.local) || SILENT.has(tag.local)) {
      if (own && !SILENT.has(tag.local)) this.note(tag.local === 'script' ? 'script' : `<${tag.local}>`);
      this.skipping = 1;
      return;
    }
    if (tag.local === 'text') this.hasText = true;
    if (tag.local === 'use' && (this.uses += 1) > 2000) throw refuse('it repeats shapes more than 2000 times');
    if (tag.local === 'style') {
      this.inStyle += 1;
      this.styleText = '';
    }
    const attributes = Object.values(tag.attributes).map((attribute) => this.attribute(tag, attribute));
    if (this.depth === 1) attributes.unshift(`xmlns="${SVG_NS}"`, `xmlns:xlink="${XLINK_NS}"`);
    const kept = attributes.filter(Boolean).map((one) => ` ${one}`);
    this.out.push(`<${tag.local}${kept.join('')}>`);
  }

  /** Counts an element against what there may be, and keeps the outermost. */
  private count(tag: SaxesTagNS): void {
    this.depth += 1;
    this.elements += 1;
    if (this.elements > MAX_SVG_ELEMENTS)
      throw refuse(`it has more than ${MAX_SVG_ELEMENTS} elements; simplify it or export it as PNG`);
    if (this.depth > 200) throw refuse('its groups are nested more than 200 deep');
    if (this.root) return;
    if (tag.local !== 'svg' || (tag.uri !== SVG_NS && tag.uri !== '')) throw refuse('its outermost element is not svg');
    this.root = tag;
  }

  private close(tag: SaxesTagNS): void {
    this.depth -= 1;
    if (this.skipping > 0) {
      this.skipping -= 1;
      return;
    }
    if (tag.local === 'style') {
      this.inStyle -= 1;
      this.out.push(escapeText(cleanCss(this.styleText, this.note)));
    }
    this.out.push(`</${tag.local}>`);
  }

  private takeText(value: string): void {
    if (this.skipping > 0 || this.depth === 0) return;
    if (this.inStyle > 0) this.styleText += value;
    else this.out.push(escapeText(value));
  }

  /** An attribute as it is written, or null where it is left out. */
  private attribute(tag: SaxesTagNS, { local, prefix, uri, value, name }: SaxesAttributeNS): string | null {
    if (prefix === 'xmlns' || name === 'xmlns') return null;
    if (uri !== '' && uri !== XLINK_NS && prefix !== 'xml') return null;
    if (/^on/i.test(local)) {
      this.note('an event handler');
      return null;
    }
    if (local === 'filter') {
      this.note('filter');
      return null;
    }
    if (local === 'href') return this.link(tag, value, uri === XLINK_NS ? 'xlink:href' : 'href');
    const css = local === 'style' || /url\(/i.test(value) ? cleanCss(value, this.note) : value;
    return `${prefix === 'xml' ? 'xml:' : ''}${local}="${escapeValue(css)}"`;
  }

  /** A link stays when it leads to something in the document, or is itself a picture. */
  private link(tag: SaxesTagNS, value: string, as: string): string | null {
    if (tag.local === 'a') return null;
    const isImage = tag.local === 'image';
    const inner = isImage ? innerSvg(value) : null;
    if (inner !== null) return `xlink:href="data:image/svg+xml;base64,${asBase64(this.cleanInner(inner))}"`;
    const picture = isImage && /^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=\s]+$/i.test(value.trim());
    if (value.trim().startsWith('#') || picture) return `${as}="${escapeValue(value)}"`;
    this.note('a link to something outside');
    return null;
  }

  private cleanInner(inner: string): string {
    if (this.isInner) throw refuse('an SVG within an SVG within an SVG');
    const clean = cleanSvg(inner, true);
    if (clean.hasText) throw refuse('the SVG within it holds text; convert that to outlines');
    for (const what of clean.leftOut) this.note(what);
    return clean.svg;
  }
}

/** The size that an SVG gives itself, px of 1/96 in. Throws `svg-refused` where it has none, or a senseless one. */
function sizeOf(root: SaxesTagNS): { widthPx: number; heightPx: number } {
  const attribute = (name: string) => ownEntry(root.attributes, name)?.value;
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
  return { widthPx, heightPx };
}
