import { plainCell } from '../csv/safe';
import type { CsvFault } from './price-csv';

/** Where the columns of a file are, by their names in lower case. Unknown columns are passed over: programs export many. */
export class Headings {
  private readonly places: ReadonlyMap<string, number>;

  private constructor(fields: readonly string[]) {
    this.places = new Map(fields.map((field, i) => [field.trim().toLowerCase(), i]));
  }

  /**
   * Reads a file's first row. `needed`: of each group at least one column must be there; a group's sentence says what for. A file that is
   * separated by semicolons is told so before anything else.
   */
  static read(
    fields: readonly string[],
    line: number,
    needed: readonly { readonly oneOf: readonly string[]; readonly says: string }[],
    faults: CsvFault[],
  ): Headings {
    const headings = new Headings(fields);
    const fault = (column: string | null, code: string, says: string) => faults.push({ line, column, code, says });
    if (fields.length === 1 && fields[0]!.includes(';'))
      fault(null, 'csv-separator', 'The columns are separated by semicolons. Save the file again as CSV with commas.');
    else {
      const missing = needed.find(({ oneOf }) => !oneOf.some((name) => headings.places.has(name)));
      if (missing) fault(missing.oneOf.length === 1 ? missing.oneOf[0]! : null, 'csv-column-missing', missing.says);
    }
    return headings;
  }

  /** What a row holds under a heading, as it was before it was made safe for a spreadsheet, without spaces around it; empty where there is none. */
  at(fields: readonly string[], name: string): string {
    return plainCell(fields[this.places.get(name) ?? -1] ?? '').trim();
  }
}
