import type { CsvFault } from './fault';
import { plainCell } from './safe';

/** Columns of which at least one must be there; the sentence says what for. */
export interface NeededColumns {
  readonly oneOf: readonly string[];
  readonly says: string;
}

/** One row below the headings. */
export interface TableRow {
  readonly line: number;
  /** What it holds under a heading, as it was before it was made safe for a spreadsheet, without spaces around it; empty where there is none. */
  at(name: string): string;
}

const SEPARATORS = [
  [';', 'semicolons'],
  ['\t', 'tabs'],
] as const;

/**
 * A CSV file read by the names of its columns, in any order and in upper or lower case; columns that nobody asks for are passed over, since
 * programs export many. The first row is the headings. Where they cannot be used no row is read, so that one fault is not told for each row.
 */
export class CsvTable {
  private places: ReadonlyMap<string, number> | null = null;
  private columns = 0;
  private usable = true;

  /** Faults are put where the reader keeps its own. */
  constructor(
    private readonly needed: readonly NeededColumns[],
    private readonly faults: CsvFault[],
  ) {}

  /** A row to be read; null for the headings, and for rows that cannot be read by them. */
  row(fields: readonly string[], line: number): TableRow | null {
    if (!this.places) {
      this.readHeadings(fields, line);
      return null;
    }
    if (!this.usable) return null;
    if (fields.length !== this.columns) {
      this.fault(
        line,
        null,
        'csv-fields',
        `The line has ${fields.length} ${fields.length === 1 ? 'field' : 'fields'} where the headings have ${this.columns}; a comma in a field needs quotes around it.`,
      );
      return null;
    }
    const { places } = this;
    return { line, at: (name) => plainCell(fields[places.get(name) ?? -1] ?? '').trim() };
  }

  private fault(line: number, column: string | null, code: string, says: string): void {
    this.faults.push({ line, column, code, says });
  }

  private readHeadings(fields: readonly string[], line: number): void {
    const places = new Map<string, number>();
    this.places = places;
    this.columns = fields.length;
    const separator = fields.length === 1 ? SEPARATORS.find(([sign]) => fields[0]!.includes(sign)) : undefined;
    if (separator) {
      this.usable = false;
      const says = `The columns are separated by ${separator[1]}. Save the file again as CSV with commas.`;
      this.fault(line, null, 'csv-separator', says);
      return;
    }
    for (const [i, field] of fields.entries()) {
      const name = field.trim().toLowerCase();
      if (name !== '' && places.has(name)) {
        this.usable = false;
        this.fault(line, field.trim(), 'csv-column-twice', `The column “${field.trim()}” is there twice.`);
      }
      places.set(name, i);
    }
    for (const { oneOf, says } of this.needed) {
      if (oneOf.some((name) => places.has(name))) continue;
      this.usable = false;
      this.fault(line, oneOf.length === 1 ? oneOf[0]! : null, 'csv-column-missing', says);
    }
  }
}
