import { fork } from 'node:child_process';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { ChangeTotals } from '../../src/core/partner-file/price-changes';
import { putBlob } from '../../src/server/blobs/blobs';
import { benchDatabase } from './database';
import { BLANKS, fillCatalog, skuOf, VARIANTS } from './catalog-data';
import { bundle } from './bundle';
import type { Bench } from './bench';

interface Answer {
  readonly error?: string;
  readonly state: string;
  readonly totals?: ChangeTotals | null;
  readonly reports: number;
  readonly memoryMb: number;
}

const ROWS = BLANKS * VARIANTS;
const PARTNER = 'bench-a';

/** The new list: every third cost is raised, some are lowered, some variants end. */
function csv(): string {
  const parts = ['sku,blank,variant,cost,currency,stock,ended\r\n'];
  for (let i = 0; i < BLANKS; i += 1)
    for (let c = 0; c < 12; c += 1)
      for (const s of ['S', 'M', 'L', 'XL', 'XXL']) {
        const was = 400 + ((i * 37) % 2000) + (s === 'XXL' ? 150 : 0);
        const cost = was + (i % 3 === 0 ? 25 : i % 7 === 0 ? -10 : 0);
        parts.push(
          `${skuOf(i, c, s)},Blank ${i},"Color ${c}, ${s}",${(cost / 100).toFixed(2)},GBP,${(i + c) % 11 === 0 ? 0 : 500},${i % 500 === 0 && c === 3 ? 'yes' : 'no'}\r\n`,
        );
      }
  return parts.join('');
}

const bench: Bench = {
  name: 'price-list',
  reference: `LOAD DATA of the same ${ROWS.toLocaleString('en')} rows into a staging table and a bare upsert into the same indexed table`,
  rounds: 5,
  async setup() {
    const database = await benchDatabase();
    const { ctx } = database;
    await fillCatalog(database, [PARTNER]);
    const text = csv();
    const sha256 = await putBlob(ctx, Buffer.from(text), 'text/csv');
    await ctx.db.run(
      "INSERT INTO person (id, email, name, password_hash) VALUES ('u-bench', 'bench@brackwater.example', 'Bench', '')",
    );
    await ctx.db
      .run(`CREATE TABLE staging (sku VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin, blank VARCHAR(200), variant VARCHAR(200),
      cost DECIMAL(12, 2), currency CHAR(3), stock INT, ended VARCHAR(5)) ENGINE=InnoDB`);
    const worker = fork(await bundle(path.join(import.meta.dirname, 'price-list.worker.ts'), 'price-list'), {
      env: { ...process.env, ...database.env },
      execArgv: [],
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    const ask = (id: string) =>
      new Promise<Answer>((answer, refuse) => {
        worker.once('message', (message: Answer) =>
          message.error ? refuse(new Error(message.error)) : answer(message),
        );
        worker.send(id);
      });
    let round = 0;
    let reports = 0;
    let memoryMb = 0;

    /** Both write into a list of their own, and take it out again outside of the time that counts: see `after`. */
    const ours = async () => {
      round += 1;
      const id = `x-ours-${round}`;
      const base = `x-${PARTNER}`;
      await ctx.db.run(
        "INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from, state, base_list_id, file_sha256, person_id) VALUES (?, ?, 'w-bench', 'GBP', UTC_DATE(), 'reading', ?, ?, 'u-bench')",
        [id, PARTNER, base, sha256],
      );
      const answer = await ask(id);
      reports += answer.reports;
      memoryMb = Math.max(memoryMb, answer.memoryMb);
      if (answer.state !== 'taken' || answer.totals?.rows !== ROWS || answer.totals.up === 0)
        throw new Error(`the list was not taken: ${JSON.stringify(answer)}`);
      // Out of force again, so that the next round compares with the same base.
      await ctx.db.run("UPDATE price_list SET state = 'dropped' WHERE id = ?", [id]);
    };
    const theirs = async () => {
      round += 1;
      const id = `x-ref-${round}`;
      await ctx.db.run('TRUNCATE staging');
      await ctx.db.load(
        `LOAD DATA LOCAL INFILE 'list' INTO TABLE staging CHARACTER SET utf8mb4 FIELDS TERMINATED BY ',' OPTIONALLY ENCLOSED BY '"' LINES TERMINATED BY '\\r\\n' IGNORE 1 LINES`,
        [],
        Readable.from(Buffer.from(text), { objectMode: false }),
      );
      await ctx.db.run(
        "INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from, state) VALUES (?, ?, 'w-bench', 'GBP', UTC_DATE(), 'dropped')",
        [id, PARTNER],
      );
      const { affectedRows } = await ctx.db.run(
        `INSERT INTO price_list_variant (price_list_id, blank_id, variant_key, base_cost_minor, stock, ended)
         SELECT ?, v.blank_id, v.variant_key, s.cost * 100, s.stock, s.ended = 'yes' FROM staging s JOIN blank_variant v ON v.partner_id = ? AND v.sku = s.sku
         ON DUPLICATE KEY UPDATE base_cost_minor = VALUE(base_cost_minor), stock = VALUE(stock), ended = VALUE(ended)`,
        [id, PARTNER],
      );
      if (affectedRows !== ROWS) throw new Error(`the reference wrote ${affectedRows} rows`);
    };
    return {
      ours,
      theirs,
      async after() {
        return `file ${(text.length / 1e6).toFixed(1)} MB; progress told ${Math.round(reports / (bench.rounds + 1))} times a list; memory of the process that reads ${memoryMb.toFixed(0)} MB at most (budget 300)`;
      },
      async close() {
        worker.disconnect();
        await database.close();
      },
    };
  },
};
export default bench;
