import { SoldReader } from '@/core/variants/sold-csv';
import type { SoldItem } from '@/core/variants/match';
import { invalid } from '@/core/errors';
import { readCsvBody } from '../csv/body';

/** Reads a list of what is sold already from CSV. Throws `csv-faulty` with all faults by line and column, or `csv-too-large`. */
export async function readSoldItems(body: ReadableStream<Uint8Array> | null, currency: string): Promise<SoldItem[]> {
  const reader = new SoldReader(currency);
  await readCsvBody(body, reader, 5);
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
