import { SoldReader } from '@/core/variants/sold-csv';
import type { SoldItem } from '@/core/variants/match';
import { invalid } from '@/core/errors';
import { readRows } from '../csv/body';

/** Reads a list of what is sold already from CSV. Throws `csv-faulty` with all faults by line and column. */
export async function readSoldItems(csv: Uint8Array, currency: string): Promise<SoldItem[]> {
  const reader = new SoldReader(currency);
  await readRows(csv, reader);
  if (reader.faults.length > 0)
    throw invalid(
      'csv-faulty',
      `The list cannot be imported: ${reader.faults
        .slice(0, 3)
        .map((fault) => `line ${fault.line}${fault.column ? `, ${fault.column}` : ''}: ${fault.says}`)
        .join(' ')}${reader.faults.length > 3 ? ` And ${reader.faults.length - 3} more.` : ''}`,
      { faults: reader.faults.slice(0, 500) },
    );
  if (reader.items.length === 0) throw invalid('csv-empty', 'The list has no rows; export it again.');
  return reader.items;
}
