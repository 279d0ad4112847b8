import { Readable } from 'node:stream';
import type { CsvFault } from '@/core/csv/fault';
import { invalid, TypicaError } from '@/core/errors';
import { readCsv } from './reader';

/** What takes in rows and keeps what is wrong with them. */
export interface RowReader {
  row(fields: readonly string[], line: number): void;
  /** After the last row. */
  end?(): void;
  readonly faults: CsvFault[];
}

/** Faults that are told; a file that has more is another file than was meant, and is not read on. */
export const MAX_FAULTS = 200;

/** Reads a request's body into memory. Throws `csv-empty` without one, `csv-too-large`. */
export async function csvBytes(body: ReadableStream<Uint8Array> | null, mostMegabytes: number): Promise<Uint8Array> {
  if (!body) throw invalid('csv-empty', 'The request is empty; send the CSV itself.');
  const most = mostMegabytes * 1024 * 1024;
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of Readable.fromWeb(body as never)) {
    size += (chunk as Uint8Array).length;
    // The rest is read and thrown away: a client that is cut off in the middle never sees the answer.
    if (size <= most) parts.push(chunk as Uint8Array);
    else if (size > 20 * most) break;
  }
  if (size > most)
    throw new TypicaError(
      'too-large',
      'csv-too-large',
      `The list is larger than ${mostMegabytes} MB; send only the rows that are needed.`,
    );
  return Buffer.concat(parts);
}

class Enough extends Error {}

/** Reads CSV into a reader. After `MAX_FAULTS` faults reading ends with one that says so. */
export async function readRows(bytes: Uint8Array, reader: RowReader): Promise<void> {
  async function* once(): AsyncGenerator<Uint8Array> {
    for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536);
  }
  let last = 1;
  const stopAtMany = () => {
    if (reader.faults.length >= MAX_FAULTS) throw new Enough();
  };
  try {
    await readCsv(
      once(),
      (fields, line) => {
        last = line;
        reader.row(fields, line);
        stopAtMany();
      },
      (fault) => {
        reader.faults.push(fault);
        stopAtMany();
      },
    );
    reader.end?.();
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
    reader.faults.splice(MAX_FAULTS);
    reader.faults.push({
      line: last,
      column: null,
      code: 'csv-many-faults',
      says: `${MAX_FAULTS} lines are wrong up to here; the rest was not read. Is this the right file?`,
    });
  }
}

/** Both at once, for what is small. */
export async function readCsvBody(
  body: ReadableStream<Uint8Array> | null,
  reader: RowReader,
  mostMegabytes: number,
): Promise<void> {
  await readRows(await csvBytes(body, mostMegabytes), reader);
}
