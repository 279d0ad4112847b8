import { FALLBACK, familyByCode, FAMILIES, type FontStyle } from '../lettering/families';
import { ownEntry } from '../own-entry';

/** Letters of one look that stand on one line of an SVG text. Lengths in user units. */
export interface SvgSpan {
  readonly text: string;
  readonly family: string;
  readonly style: FontStyle;
  readonly sizePx: number;
  /** Thousandths of an em. */
  readonly tracking: number;
  /** Moves by which the span begins. */
  readonly dx: number;
  readonly dy: number;
  /** Attributes that color it, as they stand. */
  readonly attributes: string;
}

export interface SvgLine {
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly spans: readonly SvgSpan[];
}

/** One `text` element: where it stands in the SVG and what it says. */
export interface SvgText {
  readonly from: number;
  readonly to: number;
  /** Attributes of the element that its group keeps: transform, fill, opacity … */
  readonly attributes: string;
  readonly lines: readonly SvgLine[];
}

export interface SvgTexts {
  readonly texts: readonly SvgText[];
  /** Fonts that are asked for and do not ship with the app: their letters are set in the fallback. Letters along a path are not outlined. */
  readonly missingFonts: readonly string[];
  readonly alongPath: boolean;
}

interface Look {
  readonly family: string | null;
  /** As it was asked for. */
  readonly asked: string;
  readonly sizePx: number;
  readonly weight: number;
  readonly italic: boolean;
  readonly anchor: SvgLine['anchor'];
  readonly tracking: number;
}

const PLAIN: Look = {
  family: 'noto-sans',
  asked: 'sans-serif',
  sizePx: 16,
  weight: 400,
  italic: false,
  anchor: 'start',
  tracking: 0,
};

/** What the generic names of CSS stand for here. */
const GENERIC: { readonly [name: string]: string } = {
  'sans-serif': 'noto-sans',
  'system-ui': 'noto-sans',
  serif: 'eb-garamond',
  cursive: 'caveat',
  fantasy: 'limelight',
  monospace: 'special-elite',
};

const squeezed = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');
const byName = new Map(
  FAMILIES.flatMap((family) => [
    [squeezed(family.name), family.code],
    [squeezed(family.code), family.code],
  ]),
);

const unescape = (text: string): string =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');

const attributesOf = (tag: string): Map<string, string> =>
  new Map([...tag.matchAll(/\s([\w:-]+)="([^"]*)"/g)].map(([, name, value]) => [name!, unescape(value!)]));

const declarationsOf = (css: string): (readonly [string, string])[] =>
  css.split(';').flatMap((part) => {
    const colon = part.indexOf(':');
    return colon < 0 ? [] : [[part.slice(0, colon).trim().toLowerCase(), part.slice(colon + 1).trim()] as const];
  });

/** What stands between `<style …>` and `</style>`. */
function* stylesOf(svg: string): Generator<string> {
  for (let at = svg.indexOf('<style'); at >= 0; at = svg.indexOf('<style', at)) {
    const begin = svg.indexOf('>', at);
    const end = begin < 0 ? -1 : svg.indexOf('</style>', begin);
    if (end < 0) return;
    yield svg.slice(begin + 1, end);
    at = end;
  }
}

/** Rules of the `style` elements by selector, only plain ones: `text`, `.name`. */
function rulesOf(svg: string): Map<string, (readonly [string, string])[]> {
  const rules = new Map<string, (readonly [string, string])[]>();
  for (const css of stylesOf(svg))
    for (const part of unescape(css).split('}')) {
      // What stands before a second brace belongs to something that is nested, which is left out.
      const at = part.lastIndexOf('{');
      if (at < 0) continue;
      const selectors = part.slice(part.lastIndexOf('{', at - 1) + 1, at);
      for (const selector of selectors.split(',')) {
        const name = selector.trim();
        if (name !== '') rules.set(name, [...(rules.get(name) ?? []), ...declarationsOf(part.slice(at + 1))]);
      }
    }
  return rules;
}

/** Properties that a tag sets, the weakest first: attributes, rules for its name and classes, its own style. */
function propertiesOf(name: string, attributes: Map<string, string>, rules: ReturnType<typeof rulesOf>) {
  const classes = (attributes.get('class') ?? '').split(/\s+/).filter(Boolean);
  return [
    ...attributes,
    ...(rules.get(name) ?? []),
    ...classes.flatMap((one) => rules.get(`.${one}`) ?? []),
    ...declarationsOf(attributes.get('style') ?? ''),
  ];
}

function lookOf(before: Look, properties: readonly (readonly [string, string])[]): Look {
  let look = before;
  for (const [name, value] of properties) {
    if (name === 'font-size') {
      const match = /^([\d.]+)\s*(px|pt|em|%)?$/.exec(value.trim());
      if (!match) continue;
      const n = Number(match[1]);
      const sizePx =
        match[2] === 'pt'
          ? (n * 96) / 72
          : match[2] === 'em'
            ? n * look.sizePx
            : match[2] === '%'
              ? (n / 100) * look.sizePx
              : n;
      look = { ...look, sizePx };
    } else if (name === 'font-family') {
      const names = value.split(',').map((one) => one.trim().replace(/^["']|["']$/g, ''));
      const [first = ''] = names;
      look = {
        ...look,
        asked: first,
        family: byName.get(squeezed(first)) ?? ownEntry(GENERIC, first.toLowerCase()) ?? null,
      };
    } else if (name === 'font-weight')
      look = { ...look, weight: value === 'bold' || value === 'bolder' ? 700 : Number(value) || 400 };
    else if (name === 'font-style') look = { ...look, italic: /italic|oblique/.test(value) };
    else if (name === 'text-anchor')
      look = { ...look, anchor: value === 'middle' || value === 'end' ? value : 'start' };
    else if (name === 'letter-spacing') {
      const match = /^(-?[\d.]+)\s*(px|em)?$/.exec(value.trim());
      if (match) look = { ...look, tracking: Number(match[1]) * (match[2] === 'em' ? 1000 : 1000 / look.sizePx) };
    }
  }
  return look;
}

/** Attributes that are about letters and not about what is drawn; the group does without them. */
const LETTERS = new Set(
  'x y dx dy rotate textLength lengthAdjust font-family font-size font-weight font-style text-anchor letter-spacing word-spacing xml:space'.split(
    ' ',
  ),
);
const drawn = (tag: string): string =>
  [...tag.matchAll(/\s([\w:-]+)="[^"]*"/g)]
    .filter(([, name]) => !LETTERS.has(name!))
    .map(([whole]) => whole)
    .join('');

const first = (text: string | undefined): number | null => {
  const value = Number.parseFloat((text ?? '').trim().split(/[\s,]+/)[0] ?? '');
  return Number.isFinite(value) ? value : null;
};

const styleName = (look: Look): FontStyle => {
  const bold = look.weight >= 600;
  return look.italic ? (bold ? 'bold-italic' : 'italic') : bold ? 'bold' : 'regular';
};

interface OpenText {
  readonly from: number;
  readonly attributes: string;
  readonly lines: { readonly x: number; readonly y: number; readonly anchor: SvgLine['anchor']; spans: SvgSpan[] }[];
  /** Holds nothing but letters and spans: only such a text is outlined. */
  plain: boolean;
}

const STANDING = { dx: 0, dy: 0 };

/** Goes through an SVG token by token and gathers its texts, with the look of their letters as it is inherited. */
class TextFinder {
  readonly texts: SvgText[] = [];
  readonly missing = new Set<string>();
  alongPath = false;
  private readonly looks: Look[] = [PLAIN];
  private readonly fills: string[] = [];
  private text: OpenText | null = null;
  private move = STANDING;

  constructor(private readonly rules: ReturnType<typeof rulesOf>) {}

  letters(token: string): void {
    if (!this.text || token.trim() === '') return this.space(token);
    const look = this.looks.at(-1)!;
    // What is not here is set in a family of ours, and named: no renderer's own choice of a font, which can be one of signs.
    const isHere = look.family !== null && familyByCode(look.family) !== null;
    if (!isHere) this.missing.add(look.asked);
    const { spans } = this.text.lines.at(-1)!;
    const words = unescape(token).replace(/\s+/g, ' ');
    spans.push({
      text: spans.length === 0 ? words.trimStart() : words,
      family: isHere ? look.family! : FALLBACK,
      style: styleName(look),
      sizePx: look.sizePx,
      tracking: look.tracking,
      ...this.move,
      attributes: this.fills.at(-1) ?? '',
    });
    this.move = STANDING;
  }

  /** A space between two spans counts, one at the edge of a line does not. */
  private space(token: string): void {
    const spans = this.text?.lines.at(-1)?.spans;
    if (spans && spans.length > 0 && /\s/.test(token)) spans.push({ ...spans.at(-1)!, text: ' ', ...STANDING });
  }

  open(name: string, token: string, at: number): void {
    const attributes = attributesOf(token);
    const look = lookOf(this.looks.at(-1)!, propertiesOf(name, attributes, this.rules));
    this.looks.push(look);
    if (name === 'text') this.openText(token, at, attributes, look);
    else if (this.text && name === 'tspan') this.openSpan(this.text, token, attributes, look);
    else if (this.text) {
      if (name === 'textPath') this.alongPath = true;
      this.text.plain = false;
    }
  }

  private openText(token: string, from: number, attributes: Map<string, string>, look: Look): void {
    const [x, y] = [first(attributes.get('x')) ?? 0, first(attributes.get('y')) ?? 0];
    this.text = { from, attributes: drawn(token), lines: [{ x, y, anchor: look.anchor, spans: [] }], plain: true };
    this.move = { dx: first(attributes.get('dx')) ?? 0, dy: first(attributes.get('dy')) ?? 0 };
  }

  private openSpan({ lines }: OpenText, token: string, attributes: Map<string, string>, look: Look): void {
    this.fills.push(drawn(token));
    const [x, y] = [first(attributes.get('x')), first(attributes.get('y'))];
    const last = lines.at(-1)!;
    if (x !== null || y !== null) lines.push({ x: x ?? last.x, y: y ?? last.y, anchor: look.anchor, spans: [] });
    this.move = {
      dx: this.move.dx + (first(attributes.get('dx')) ?? 0),
      dy: this.move.dy + (em(attributes.get('dy'), look.sizePx) ?? 0),
    };
  }

  /** `to` is where the closing tag ends. */
  close(name: string, to: number): void {
    this.looks.pop();
    if (!this.text) return;
    if (name === 'tspan') this.fills.pop();
    if (name !== 'text') return;
    const { from, attributes, lines, plain } = this.text;
    if (plain && lines.some((line) => line.spans.length > 0))
      this.texts.push({ from, to, attributes, lines: lines.map(trimmed) });
    this.text = null;
    this.fills.length = 0;
  }
}

/** The texts of an SVG that was cleaned (`cleanSvg`), with the fonts of the app that they are to be outlined in. */
export function findSvgTexts(svg: string): SvgTexts {
  const finder = new TextFinder(rulesOf(svg));
  for (const match of svg.matchAll(/<(\/?)([\w:-]+)(?:[^\w:><-][^<>]*)?>|[^<]+/g)) {
    const [token, closing, name] = match;
    if (name === undefined) finder.letters(token);
    else if (closing) finder.close(name, match.index + token.length);
    else finder.open(name, token, match.index);
  }
  return { texts: finder.texts, missingFonts: [...finder.missing].sort(), alongPath: finder.alongPath };
}

/** A length that may be in em. */
const em = (text: string | undefined, sizePx: number): number | null => {
  const value = first(text);
  return value === null ? null : /em\s*$/.test(text ?? '') ? value * sizePx : value;
};

function trimmed(line: SvgLine): SvgLine {
  const spans = [...line.spans];
  while (spans.length > 0 && spans.at(-1)!.text.trim() === '') spans.pop();
  const last = spans.at(-1);
  if (last) spans[spans.length - 1] = { ...last, text: last.text.trimEnd() };
  return { ...line, spans };
}

/** A span as it was set: path data with its origin at the start of its baseline, and how far it reaches. */
export interface SetSpan {
  readonly pathData: string;
  readonly width: number;
}

const short = (value: number) => String(Math.round(value * 1000) / 1000);

/** The SVG with its texts as outlines. `setOf` gives each span as it was set. */
export function withOutlines(svg: string, texts: readonly SvgText[], setOf: (span: SvgSpan) => SetSpan): string {
  let out = '';
  let at = 0;
  for (const text of texts) {
    out += svg.slice(at, text.from) + groupOf(text, setOf);
    at = text.to;
  }
  return out + svg.slice(at);
}

function groupOf(text: SvgText, setOf: (span: SvgSpan) => SetSpan): string {
  const paths = text.lines.flatMap((line) => {
    const sets = line.spans.map((span) => ({ span, ...setOf(span) }));
    const width = sets.reduce((sum, one) => sum + one.width + one.span.dx, 0);
    let x = line.x - (line.anchor === 'middle' ? width / 2 : line.anchor === 'end' ? width : 0);
    let y = line.y;
    return sets.map(({ span, pathData, width: own }) => {
      x += span.dx;
      y += span.dy;
      const path = `<path transform="translate(${short(x)} ${short(y)})"${span.attributes} d="${pathData}"></path>`;
      x += own;
      return path;
    });
  });
  return `<g${text.attributes}>${paths.join('')}</g>`;
}
