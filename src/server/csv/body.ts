import { Readable } from 'node:stream';
import type { CsvFault } from '@/core/catalog/price-csv';
import { invalid, TypicaError } from '@/core/errors';
import { readCsv } from './reader';

/** What takes in rows and keeps what is wrong with them. */
export interface RowReader {
  row(fields: readonly string[], line: number): void;
  readonly faults: CsvFault[];
}

/** Reads a request's body as CSV into a reader. Throws `csv-empty` without a body, `csv-too-large`. */
export async function readCsvBody(
  body: ReadableStream<Uint8Array> | null,
  reader: RowReader,
  mostMegabytes: number,
): Promise<void> {
  if (!body) throw invalid('csv-empty', 'The request has no body; send the CSV itself as the body.');
  const most = mostMegabytes * 1024 * 1024;
  let size = 0;
  async function* limited(): AsyncGenerator<Uint8Array> {
    for await (const chunk of Readable.fromWeb(body as never)) {
      size += (chunk as Uint8Array).length;
      // The rest is read and thrown away: a client that is cut off in the middle never sees the answer.
      if (size <= most) yield chunk as Uint8Array;
      else if (size > 20 * most) break;
    }
  }
  await readCsv(
    limited(),
    (fields, line) => reader.row(fields, line),
    (fault) => reader.faults.push(fault),
  );
  if (size > most)
    throw new TypicaError(
      'too-large',
      'csv-too-large',
      `The list is larger than ${mostMegabytes} MB; send only the rows of this product.`,
    );
}
