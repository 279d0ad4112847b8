/** What may stand before the root of an SVG: how it begins, and how it ends. */
const BEFORE_ROOT = [
  ['<?', '?>'],
  ['<!--', '-->'],
  ['<!doctype', '>'],
] as const;

/** Whether text begins as an SVG does, after a declaration, comments and a document type. One pass. */
export function looksLikeSvg(head: string): boolean {
  const small = head.toLowerCase();
  let at = small.startsWith('\ufeff') ? 1 : 0;
  for (;;) {
    while (/\s/.test(small[at] ?? '')) at += 1;
    const before = BEFORE_ROOT.find(([begin]) => small.startsWith(begin, at));
    if (!before) return /^<(\w+:)?svg[\s/>]/.test(small.slice(at, at + 60));
    const [begin, end] = before;
    let to = small.indexOf(end, at + begin.length);
    // A document type may hold declarations of its own, in brackets.
    const bracket = small.indexOf('[', at);
    if (begin === '<!doctype' && bracket >= 0 && bracket < to) {
      const close = small.indexOf(']', bracket);
      to = close < 0 ? -1 : small.indexOf(end, close);
    }
    if (to < 0) return false;
    at = to + end.length;
  }
}

/** The text of an XML file in the encoding that it is in: by its mark, by what it declares, else UTF-8 (XML 1.0, appendix F). */
export function xmlText(bytes: Buffer): string {
  const [a, b] = [bytes[0], bytes[1]];
  const marked =
    (a === 0xff && b === 0xfe) || (a === 0x3c && b === 0)
      ? 'utf-16le'
      : (a === 0xfe && b === 0xff) || (a === 0 && b === 0x3c)
        ? 'utf-16be'
        : null;
  const declared = /^[^>]{0,200}encoding\s*=\s*["']([\w-]{1,40})["']/.exec(
    bytes.subarray(0, 240).toString('latin1'),
  )?.[1];
  try {
    return new TextDecoder(marked ?? (declared && !/^utf-16/i.test(declared) ? declared : 'utf-8')).decode(bytes);
  } catch {
    return bytes.toString('utf8');
  }
}
