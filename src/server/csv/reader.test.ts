import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csvLine } from '@/core/partner-file/price-csv';
import type { CsvFault } from '@/core/csv/fault';
import { readCsv } from './reader';

async function* chunks(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

async function read(text: string | Uint8Array, size = 7) {
  const rows: { fields: string[]; line: number }[] = [];
  const faults: CsvFault[] = [];
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  const notes = await readCsv(
    chunks(bytes, size),
    (fields, line) => rows.push({ fields, line }),
    (fault) => faults.push(fault),
  );
  return { rows, faults, notes };
}

describe('CSV (RFC 4180)', () => {
  it('is read as a general CSV package reads it, wherever its chunks are cut', async () => {
    const field = fc.oneof(fc.string({ unit: 'grapheme' }), fc.constantFrom('a,b', '"', 'x\r\ny', '', 'Kelp, XXL'));
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(field, field, field), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 40 }),
        async (table, size) => {
          // A first line of its own, so that a break inside a field is not taken for that of the file.
          const text = csvLine(['a', 'b', 'c']) + table.map(csvLine).join('');
          const { rows, faults } = await read(text, size);
          expect(faults).toEqual([]);
          // A break inside a field is one sign here, whichever it was written as.
          const want = (parse(text, { record_delimiter: '\r\n' }) as string[][]).map((row) =>
            row.map((one) => one.replaceAll('\r\n', '\n')),
          );
          expect(rows.map((row) => row.fields)).toEqual(want);
        },
      ),
    );
  });

  it('counts lines as an editor does: blank ones and breaks inside fields too', async () => {
    const { rows } = await read('sku,variant\nA,x\n\nB,"two\nlines"\nC,y\n');
    expect(rows.map((row) => [row.fields[0], row.line])).toEqual([
      ['sku', 1],
      ['A', 2],
      ['B', 4],
      ['C', 6],
    ]);
  });

  it.each(['\r\n', '\n', '\r'])('takes %j as the end of a line', async (end) => {
    const { rows, notes } = await read(['a,b', '1,2', ''].join(end));
    expect(rows.map((row) => row.fields)).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
    expect(notes.endsWithBreak).toBe(true);
  });

  it('takes both ends of a line in one file, however it is cut', async () => {
    for (const size of [1, 2, 3, 40]) {
      const { rows, faults } = await read('sku,cost\r\nA,1\nB,2\r\nC,3', size);
      expect(faults).toEqual([]);
      expect(rows.map(({ fields, line }) => [line, ...fields])).toEqual([
        [1, 'sku', 'cost'],
        [2, 'A', '1'],
        [3, 'B', '2'],
        [4, 'C', '3'],
      ]);
    }
  });

  it('passes a byte order mark over and says so', async () => {
    const { rows, notes, faults } = await read('\ufeffsku,cost\nA,1\n');
    expect(rows[0]!.fields).toEqual(['sku', 'cost']);
    expect([notes.byteOrderMark, faults]).toEqual([true, []]);
  });

  it('says that the last line has no end: it may be cut off', async () => {
    const { rows, notes } = await read('sku,cost\nA,1\nB,7.4');
    expect(rows).toHaveLength(3);
    expect(notes.endsWithBreak).toBe(false);
  });
});

describe('a file that cannot be read', () => {
  const latin1 = Uint8Array.from([...'sku,variant\nA,x\nB,Giclée\nC,y\n'].map((c) => c.charCodeAt(0)));
  const utf16 = Uint8Array.from([0xff, 0xfe, ...[...'sku\n'].flatMap((c) => [c.charCodeAt(0), 0])]);
  it.each([
    ['in an older encoding', latin1, 'csv-encoding', 3],
    ['in UTF-16', utf16, 'csv-encoding', 1],
    ['that is no text', Uint8Array.from([115, 107, 117, 10, 65, 0, 66, 10]), 'csv-encoding', 2],
    ['cut off inside a quote', 'sku,variant\nA,"x\nB,y\n', 'csv-cut-off', 2],
    ['cut off inside a letter', Uint8Array.from([115, 107, 117, 10, 65, 0xc3]), 'csv-cut-off', 2],
    ['with a quote inside a field', 'sku,variant\nA,12" wide\nB,"12" wide"\nC,x\n', 'csv-quotes', 3],
  ] as const)('%s: %s, with its line', async (_what, text, code, line) => {
    for (const size of [1, 5, 1000]) {
      const { faults } = await read(text, size);
      expect(faults[0], `chunks of ${size}`).toMatchObject({ code, line });
    }
  });

  it('whose quote is never closed is given up before all of it is held', async () => {
    let handed = 0;
    async function* endless(): AsyncGenerator<Uint8Array> {
      yield new TextEncoder().encode('sku,variant\nA,"');
      for (; handed < 200; handed += 1) yield new Uint8Array(4096).fill(120);
    }
    const faults: CsvFault[] = [];
    await readCsv(
      endless(),
      () => {},
      (fault) => faults.push(fault),
    );
    expect(faults).toMatchObject([{ code: 'csv-cut-off', line: 2 }]);
    expect(handed).toBeLessThan(40);
  });
});
