import Papa from 'papaparse';
import type { CsvFault } from '@/core/csv/fault';

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
  const reader = new CsvReader(onRow, onFault);
  for await (const chunk of chunks) if (!reader.take(chunk)) return reader.notes(true);
  return reader.notes(reader.end());
}

class CsvReader {
  private readonly decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
  private first = true;
  private byteOrderMark = false;
  private newline: Break | null = null;
  /** What was read and is no whole row yet. */
  private rest = '';
  /** A CR at the end of a chunk, which may be half of a break. */
  private held = '';
  private line = 1;
  private lastCharacter = '';

  constructor(
    private readonly onRow: (fields: string[], line: number) => void,
    private readonly onFault: (fault: CsvFault) => void,
  ) {}

  notes(endsWithBreak: boolean): CsvNotes {
    return { byteOrderMark: this.byteOrderMark, endsWithBreak };
  }

  /** Takes in a chunk. False when it cannot go on. */
  take(chunk: Uint8Array): boolean {
    if (!this.begin(chunk)) return false;
    let text = this.decoded(chunk);
    if (text === null) return false;
    if (this.byteOrderMark && text.startsWith('\ufeff')) text = text.slice(1);
    if (text.includes('\0')) {
      const at = this.line + count(this.rest, '\n') + count(text.slice(0, text.indexOf('\0')), '\n');
      const says = 'This line holds a zero byte: the file is not text. Save it again as CSV in UTF-8.';
      return this.stop(fault(at, 'csv-encoding', says));
    }
    if (text === '') return true;
    this.lastCharacter = text.at(-1)!;
    // Files put together by hand have both kinds of breaks: CR LF is read as LF, and a CR that may be half of one waits for the rest.
    const whole = this.held + text;
    this.held = whole.endsWith('\r') ? '\r' : '';
    const complete = whole.slice(0, whole.length - this.held.length).replaceAll('\r\n', '\n');
    const left = this.takeRows(this.rest + complete, false);
    if (left === null) return false;
    this.rest = left;
    if (left.length <= Math.max(MAX_ROW_CHARACTERS, 2 * text.length)) return true;
    const says = 'A quote is opened on this line and not closed for a long while: a quote is missing.';
    return this.stop(fault(this.line, 'csv-cut-off', says));
  }

  /** Takes in that there is no more. Gives whether the last line ended in a break. */
  end(): boolean {
    try {
      this.rest += this.held + this.decoder.decode();
    } catch {
      const says = 'The file ends in the middle of a letter: it was cut off. Get it again.';
      return this.stop(fault(this.line + count(this.rest, '\n'), 'csv-cut-off', says));
    }
    if (this.rest !== '') this.takeRows(this.rest, true);
    return this.lastCharacter === '\n' || this.lastCharacter === '\r';
  }

  private stop(why: CsvFault): false {
    this.onFault(why);
    return false;
  }

  /** Looks for a byte order mark in the first chunk. */
  private begin(chunk: Uint8Array): boolean {
    if (!this.first || chunk.length === 0) return true;
    this.first = false;
    const [a, b, c] = chunk;
    if ((a === 0xff && b === 0xfe) || (a === 0xfe && b === 0xff)) {
      this.byteOrderMark = true;
      return this.stop(fault(1, 'csv-encoding', 'The file is in UTF-16. Save it again as CSV in UTF-8.'));
    }
    this.byteOrderMark = a === 0xef && b === 0xbb && c === 0xbf;
    return true;
  }

  private decoded(chunk: Uint8Array): string | null {
    try {
      return this.decoder.decode(chunk, { stream: true });
    } catch {
      const readable = new TextDecoder('utf-8').decode(chunk);
      const before = readable.slice(0, Math.max(0, readable.indexOf('\ufffd')));
      const says =
        'A letter on this line is not in UTF-8; the file may be in an older encoding. Save it again as CSV in UTF-8.';
      this.stop(fault(this.line + count(this.rest, '\n') + count(before, '\n'), 'csv-encoding', says));
      return null;
    }
  }

  /** Hands on the whole rows in `text`; gives what is left of it. Null when it cannot go on. */
  private takeRows(text: string, isLast: boolean): string | null {
    this.newline ??= breakOf(text);
    if (this.newline === null && !isLast) return text;
    const parser = new Papa.Parser({ delimiter: ',', newline: this.newline ?? '\n', quoteChar: '"' } as never);
    const parsed = parser.parse(text, 0, !isLast) as {
      data: string[][];
      errors: { code: string; row: number }[];
      meta: { cursor: number };
    };
    const faults = new Map(parsed.errors.map((error) => [error.row, error.code]));
    const quoted = text.includes('"');
    for (const [index, fields] of parsed.data.entries()) {
      if (!this.takeRow(fields, faults.get(index))) return null;
      this.line += 1 + (quoted ? fields.reduce((n, field) => n + count(field, '\n'), 0) : 0);
    }
    return isLast ? '' : text.slice(parsed.meta.cursor);
  }

  private takeRow(fields: string[], code: string | undefined): boolean {
    if (code === 'MissingQuotes') {
      const says = 'A quote is opened on this line and never closed: the file was cut off, or a quote is missing.';
      return this.stop(fault(this.line, 'csv-cut-off', says));
    }
    if (code !== undefined) {
      const says = 'A quote stands inside a field; write it twice and put the whole field in quotes.';
      this.onFault(fault(this.line, 'csv-quotes', says));
    } else if (fields.length > 1 || fields[0] !== '') this.onRow(fields, this.line);
    return true;
  }
}
