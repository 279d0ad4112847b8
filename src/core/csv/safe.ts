import { csvLine } from '../partner-file/price-csv';

/**
 * CSV that a person opens in a spreadsheet. A cell that begins with one of these signs is taken for a formula there, and can fetch or run
 * things; an apostrophe before it makes it text. Common practice, no source.
 */
const FORMULA = /^'*[=+\-@\t\r\n＝＋－＠]/u;
const NUMBER = /^[-+]?\d+(?:[.,]\d+)*%?$/;

/** A cell that no spreadsheet takes for a formula; numbers stay as they are. `plainCell` takes it back. */
export const safeCell = (text: string): string => (FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text);

/** What a cell said before it was made safe; other cells are as they are. */
export const plainCell = (text: string): string => (text.startsWith("'") && FORMULA.test(text) ? text.slice(1) : text);

/** One line for a spreadsheet. */
export const safeLine = (fields: readonly string[]): string => csvLine(fields.map(safeCell));

/** Before a file's text: without it, some spreadsheets read UTF-8 as something older. */
export const BYTE_ORDER_MARK = '\ufeff';
