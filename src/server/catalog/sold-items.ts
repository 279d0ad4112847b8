import { Readable } from 'node:stream';
import { SoldReader } from '@/core/variants/sold-csv';
import type { SoldItem } from '@/core/variants/match';
import { invalid, TypicaError } from '@/core/errors';
import { readCsv } from '../csv/reader';

const MAX_BYTES = 5 * 1024 * 1024;

/** Reads a list of what is sold already from CSV. Throws `csv-faulty` with all faults by line and column, or `csv-too-large`. */
export async function readSoldItems(body: ReadableStream<Uint8Array> | null, currency: string): Promise<SoldItem[]> {
  if (!body) throw invalid('csv-empty', 'The request has no body; send the CSV itself as the body.');
  const reader = new SoldReader(currency);
  let size = 0;
  async function* limited(): AsyncGenerator<Uint8Array> {
    for await (const chunk of Readable.fromWeb(body as never)) {
      size += (chunk as Uint8Array).length;
      // The rest is read and thrown away: a client that is cut off in the middle never sees the answer.
      if (size <= MAX_BYTES) yield chunk as Uint8Array;
      else if (size > 20 * MAX_BYTES) break;
    }
  }
  await readCsv(
    limited(),
    (fields, line) => reader.row(fields, line),
    (fault) => reader.faults.push(fault),
  );
  if (size > MAX_BYTES)
    throw new TypicaError(
      'too-large',
      'csv-too-large',
      'The list is larger than 5 MB; send only the rows of this product.',
    );
  if (reader.faults.length > 0)
    throw invalid(
      'csv-faulty',
      `The list cannot be taken: ${reader.faults
        .slice(0, 3)
        .map((fault) => `line ${fault.line}${fault.column ? `, ${fault.column}` : ''}: ${fault.says}`)
        .join(' ')}${reader.faults.length > 3 ? ` And ${reader.faults.length - 3} more.` : ''}`,
      { faults: reader.faults.slice(0, 500) },
    );
  if (reader.items.length === 0) throw invalid('csv-empty', 'The list has no rows; export it again.');
  return reader.items;
}
