import Papa from 'papaparse';
import type { CsvFault } from '@/core/catalog/price-csv';

/** What was noticed about a file beside its rows. */
export interface CsvNotes {
  readonly byteOrderMark: boolean;
  /** False when the last line does not end in a line break: a hint that the file may have been cut off. */
  readonly endsWithBreak: boolean;
}

/** A line of a price list is far shorter: what is longer hangs on a quote that was never closed. */
const MAX_ROW_CHARACTERS = 64 * 1024;

const fault = (line: number, code: string, says: string): CsvFault => ({ line, column: null, code, says });

const count = (text: string, sign: string): number => {
  let n = 0;
  for (let at = text.indexOf(sign); at >= 0; at = text.indexOf(sign, at + 1)) n += 1;
  return n;
};

type Break = '\n' | '\r';
/** The first line break outside of quotes; null where there is none yet. CR LF are LF already. */
function breakOf(text: string): Break | null {
  let quoted = false;
  for (let at = 0; at < text.length; at += 1) {
    const sign = text[at];
    if (sign === '"') quoted = !quoted;
    else if (quoted) continue;
    else if (sign === '\n' || sign === '\r') return sign;
  }
  return null;
}

/**
 * Reads CSV (RFC 4180) in UTF-8 from chunks of bytes and hands on each row with the line on which it begins; blank lines are passed over.
 * It never holds more than a chunk. What makes the rest unreadable (encoding, a quote that is not closed) ends it with one fault;
 * quotes that stand where they must not are told row by row through `onFault`.
 */
export async function readCsv(
  chunks: AsyncIterable<Uint8Array>,
  onRow: (fields: string[], line: number) => void,
  onFault: (fault: CsvFault) => void,
): Promise<CsvNotes> {
  const decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
  let first = true;
  let byteOrderMark = false;
  let newline: Break | null = null;
  let rest = '';
  let line = 1;
  let lastCharacter = '';
  let held = '';

  /** Hands on the whole rows in `text`; gives what is left of it. Null when it cannot go on. */
  const take = (text: string, isLast: boolean): string | null => {
    newline ??= breakOf(text);
    if (newline === null && !isLast) return text;
    const parser = new Papa.Parser({ delimiter: ',', newline: newline ?? '\n', quoteChar: '"' } as never);
    const parsed = parser.parse(text, 0, !isLast) as {
      data: string[][];
      errors: { code: string; row: number }[];
      meta: { cursor: number };
    };
    const faults = new Map(parsed.errors.map((error) => [error.row, error.code]));
    const quoted = text.includes('"');
    for (const [index, fields] of parsed.data.entries()) {
      const code = faults.get(index);
      const breaks = quoted ? fields.reduce((n, field) => n + count(field, '\n'), 0) : 0;
      if (code === 'MissingQuotes') {
        onFault(
          fault(
            line,
            'csv-cut-off',
            'A quote is opened on this line and never closed: the file was cut off, or a quote is missing.',
          ),
        );
        return null;
      }
      if (code !== undefined)
        onFault(
          fault(line, 'csv-quotes', 'A quote stands inside a field; write it twice and put the whole field in quotes.'),
        );
      else if (fields.length > 1 || fields[0] !== '') onRow(fields, line);
      line += 1 + breaks;
    }
    return isLast ? '' : text.slice(parsed.meta.cursor);
  };

  for await (const chunk of chunks) {
    if (first && chunk.length > 0) {
      first = false;
      const [a, b, c] = chunk;
      if ((a === 0xff && b === 0xfe) || (a === 0xfe && b === 0xff)) {
        onFault(fault(1, 'csv-encoding', 'The file is in UTF-16. Save it again as CSV in UTF-8.'));
        return { byteOrderMark: true, endsWithBreak: true };
      }
      byteOrderMark = a === 0xef && b === 0xbb && c === 0xbf;
    }
    let text: string;
    try {
      text = decoder.decode(chunk, { stream: true });
    } catch {
      const readable = new TextDecoder('utf-8').decode(chunk);
      const at = line + count(rest, '\n') + count(readable.slice(0, Math.max(0, readable.indexOf('\ufffd'))), '\n');
      onFault(
        fault(
          at,
          'csv-encoding',
          'A letter on this line is not in UTF-8; the file may be in an older encoding. Save it again as CSV in UTF-8.',
        ),
      );
      return { byteOrderMark, endsWithBreak: true };
    }
    if (byteOrderMark && text.startsWith('\ufeff')) text = text.slice(1);
    if (text.includes('\0')) {
      const at = line + count(rest, '\n') + count(text.slice(0, text.indexOf('\0')), '\n');
      onFault(
        fault(at, 'csv-encoding', 'This line holds a zero byte: the file is not text. Save it again as CSV in UTF-8.'),
      );
      return { byteOrderMark, endsWithBreak: true };
    }
    if (text === '') continue;
    lastCharacter = text.at(-1)!;
    // Files put together by hand have both kinds of breaks: CR LF is read as LF, and a CR that may be half of one waits for the rest.
    const whole = held + text;
    held = whole.endsWith('\r') ? '\r' : '';
    const left = take(rest + whole.slice(0, whole.length - held.length).replaceAll('\r\n', '\n'), false);
    if (left === null) return { byteOrderMark, endsWithBreak: true };
    rest = left;
    if (rest.length > Math.max(MAX_ROW_CHARACTERS, 2 * text.length)) {
      onFault(
        fault(
          line,
          'csv-cut-off',
          'A quote is opened on this line and not closed for a long while: a quote is missing.',
        ),
      );
      return { byteOrderMark, endsWithBreak: true };
    }
  }
  try {
    rest += held + decoder.decode();
  } catch {
    onFault(
      fault(
        line + count(rest, '\n'),
        'csv-cut-off',
        'The file ends in the middle of a letter: it was cut off. Get it again.',
      ),
    );
    return { byteOrderMark, endsWithBreak: false };
  }
  if (rest !== '') take(rest, true);
  return { byteOrderMark, endsWithBreak: lastCharacter === '\n' || lastCharacter === '\r' };
}
