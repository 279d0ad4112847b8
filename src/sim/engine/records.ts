import fs from 'node:fs';
import path from 'node:path';

/** One kind of thing that a shop remembers, by id. What `get` gives is the thing itself: who changes it puts it again. */
export interface Table<T> {
  get(id: string): T | undefined;
  put(id: string, value: T): T;
  drop(id: string): void;
  all(): T[];
}

export interface Records {
  table<T>(name: string): Table<T>;
  putFile(id: string, bytes: Buffer): void;
  readFile(id: string): Buffer | null;
}

type Line = [table: string, id: string, value?: unknown];

/** A journal is written anew when it is opened with so many lines that no longer count. */
const STALE_LINES = 2_000;

/**
 * A shop's memory: a journal of JSON lines that only grows, so that what was answered is there after a SIGKILL, and a folder of files.
 * A last line that was cut off is left out.
 */
export function openRecords(folder: string): Records {
  const files = path.join(folder, 'files');
  fs.mkdirSync(files, { recursive: true });
  const journal = path.join(folder, 'journal.jsonl');
  const tables = new Map<string, Map<string, unknown>>();
  const rowsOf = (name: string) => {
    const rows = tables.get(name) ?? new Map<string, unknown>();
    tables.set(name, rows);
    return rows;
  };
  const lines = replay(journal, (table, id, ...rest) => {
    if (rest.length === 0) rowsOf(table).delete(id);
    else rowsOf(table).set(id, rest[0]);
  });
  const live = [...tables.values()].reduce((sum, rows) => sum + rows.size, 0);
  if (lines - live > STALE_LINES) compact(journal, tables);
  const file = fs.openSync(journal, 'a');
  const write = (...line: Line) => fs.writeSync(file, `${JSON.stringify(line)}\n`);
  const place = (id: string) => path.join(files, id.replace(/[^a-z0-9-]/gi, ''));
  return {
    table: <T>(name: string): Table<T> => {
      const rows = rowsOf(name) as Map<string, T>;
      return {
        get: (id) => rows.get(id),
        put(id, value) {
          rows.set(id, value);
          write(name, id, value);
          return value;
        },
        drop(id) {
          if (rows.delete(id)) write(name, id);
        },
        all: () => [...rows.values()],
      };
    },
    putFile: (id, bytes) => fs.writeFileSync(place(id), bytes),
    readFile: (id) => (fs.existsSync(place(id)) ? fs.readFileSync(place(id)) : null),
  };
}

function replay(journal: string, take: (...line: Line) => void): number {
  if (!fs.existsSync(journal)) return 0;
  const lines = fs.readFileSync(journal, 'utf8').split('\n');
  // What follows the last line break is nothing, or a line that was cut off.
  const tail = lines.pop();
  if (tail) fs.truncateSync(journal, fs.statSync(journal).size - Buffer.byteLength(tail));
  for (const line of lines) if (line !== '') take(...(JSON.parse(line) as Line));
  return lines.length;
}

function compact(journal: string, tables: ReadonlyMap<string, ReadonlyMap<string, unknown>>): void {
  const lines = [...tables].flatMap(([name, rows]) =>
    [...rows].map(([id, value]) => JSON.stringify([name, id, value])),
  );
  fs.writeFileSync(`${journal}.new`, lines.map((line) => `${line}\n`).join(''));
  fs.renameSync(`${journal}.new`, journal);
}
