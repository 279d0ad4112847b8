/** One thing that is wrong with a file. `line` counts from 1 as an editor does; `column` is the heading, or null for the whole line. */
export interface CsvFault {
  readonly line: number;
  readonly column: string | null;
  readonly code: string;
  readonly says: string;
}
