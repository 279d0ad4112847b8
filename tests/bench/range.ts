import assert from 'node:assert/strict';
import v8 from 'node:v8';
import vm from 'node:vm';
import mysql from 'mysql2/promise';
import { WHOLE_RANGE, type RangeFilter } from '../../src/core/range';
import { rangeCounts } from '../../src/server/range/counts';
import { rangePage } from '../../src/server/range/page';
import type { Bench } from './bench';
import { benchDatabase, type BenchDatabase } from './database';

/**
 * A range of 100,000 listings (25,000 products in four stores): its first page with all counts, and the 200th page of a filtered range in the order of
 * titles. The reference is the same answer from SQL written by hand for these two alone, with what the range can be asked beside it left out.
 */
const PRODUCTS = 25_000;
const STORES = ['s1', 's2', 's3', 's4'] as const;
const BLANKS = 60;
const PAGE = 100;
const WS = 'w1';

const id = (i: number) => `p${String(i).padStart(6, '0')}`;
const hash = (i: number) => String(i).padStart(64, '0');
/** Evenly spread, without order, the same each time. */
const spread = (i: number, salt: number) => ((i * 2654435761 + salt * 40503) >>> 0) % 1000;
const stateOf = (i: number, s: number) => {
  const at = spread(i, s);
  return at < 820
    ? 'in-step'
    : at < 900
      ? 'ahead'
      : at < 930
        ? 'behind'
        : at < 940
          ? 'split'
          : at < 950
            ? 'refused'
            : 'not-listed';
};
const when = (i: number) =>
  new Date(Date.UTC(2026, 0, 1) + i * 61_000).toISOString().replace('T', ' ').replace('Z', '');
const WORDS = ['Ebb', 'Flood', 'Slack', 'Neap', 'Spring', 'Kelp', 'Shoal', 'Fathom'];
const RULES = ['title-long', 'pictures-few', 'tags-many', 'category', 'partner-declared'];
const FINDINGS = ['dpi-low', 'thin-lines', 'half-transparent', 'edge'];

function* each<T>(rowsOf: (i: number) => readonly T[]): Generator<T> {
  for (let i = 0; i < PRODUCTS; i += 1) yield* rowsOf(i);
}

type Row = readonly (string | number)[];

const outcome = (i: number, storeId: string, s: number): Row => {
  const broken = spread(i, 50 + s) < 60 ? 1 : 0;
  const left = spread(i, 90 + s) - 80;
  const says = broken ? 'Its title is 4 characters too long.' : '\\N';
  return [
    id(i),
    storeId,
    1,
    WS,
    stateOf(i, s),
    hash(i),
    broken,
    '[]',
    '[]',
    12,
    1900,
    2900,
    left,
    left * 400,
    left < 0 ? 1 : 0,
    says,
  ];
};

async function fillRange({ ctx, fill }: BenchDatabase): Promise<void> {
  const { db } = ctx;
  await db.run('SET GLOBAL foreign_key_checks = 0').catch(() => undefined);
  await db.run("INSERT INTO workspace (id, name, currency, country) VALUES (?, 'Bench', 'USD', 'GB')", [WS]);
  await fill(
    'partner',
    'id, code, name, country, currency',
    ['a', 'b', 'c'].map((p) => [p, p, `Partner ${p}`, 'GB', 'GBP']),
  );
  await fill(
    'good',
    'id, code, name, kind',
    Array.from({ length: 12 }, (_, g) => [`g${g}`, `g${g}`, `Good ${g}`, `kind-${g % 6}`]),
  );
  await fill(
    'blank',
    'id, good_id, partner_id, code, name, description, facts, parcel_class, making_days_min, making_days_max',
    Array.from({ length: BLANKS }, (_, b) => [
      `b${b}`,
      `g${b % 12}`,
      'abc'[b % 3]!,
      `b${b}`,
      `Blank ${b}`,
      '',
      '{}',
      'small',
      1,
      2,
    ]),
  );
  for (const [i, storeId] of STORES.entries())
    await db.run(
      "INSERT INTO store (id, workspace_id, channel, name, shop_id, shop_url, currency, state, settings) VALUES (?, ?, 'pennyquay', ?, ?, '', 'USD', 'connected', '{}')",
      [storeId, WS, `Store ${i}`, storeId],
    );
  // As long as a document of a product with a few layers and a hundred variants.
  const document = JSON.stringify({ areas: {}, text: 'x'.repeat(6000) });
  await fill(
    'product',
    'id, workspace_id, blank_id, title, revision, document, created_at, updated_at',
    each((i) => [
      [
        id(i),
        WS,
        `b${i % BLANKS}`,
        `${WORDS[i % 8]} ${WORDS[(i >> 3) % 8]} no ${i}`,
        3,
        document,
        when(i),
        when(PRODUCTS - i),
      ],
    ]),
  );
  await fill(
    'product_facts',
    'product_id, workspace_id, revision, variants, troubles, shot_id, color, findings, finding, finding_says',
    each((i) => [
      spread(i, 7) < 200
        ? [id(i), WS, 3, 12, '[]', 'shot', 'coal', 1, 'warn', 'It is printed at 140 dpi.']
        : [id(i), WS, 3, 12, '[]', 'shot', 'coal', 0, '\\N', '\\N'],
    ]),
  );
  await fill(
    'product_finding',
    'product_id, finding, workspace_id',
    each((i) => (spread(i, 7) < 200 ? [[id(i), FINDINGS[i % 4]!, WS]] : [])),
  );
  await fill(
    'product_tag',
    'product_id, tag, workspace_id',
    each((i) => [0, 1].map((n) => [id(i), `tag-${(i * 7 + n * 13) % 40}`, WS])),
  );
  await fill(
    'product_variant',
    'product_id, variant_key, workspace_id, sku',
    each((i) => [0, 1, 2, 3].map((n) => [id(i), `size=${n}`, WS, `BW-${i}-${n}`])),
  );
  await fill(
    'listing_outcome',
    'product_id, store_id, number, workspace_id, state, here_hash, broken, rules, changed, variants, low_minor, high_minor, left_minor, left_ppm, under_floor, first_says',
    each((i) => STORES.map((storeId, s) => outcome(i, storeId, s))),
  );
  await fill(
    'outcome_rule',
    'product_id, store_id, number, rule_id, workspace_id',
    each((i) =>
      STORES.flatMap((storeId, s) => (spread(i, 50 + s) < 60 ? [[id(i), storeId, 1, RULES[(i + s) % 5]!, WS]] : [])),
    ),
  );
  await fill(
    'listing',
    'id, workspace_id, product_id, store_id, number, external_id, visibility, agreed_hash',
    each((i) => STORES.map((storeId, s) => [`l${id(i)}${s}`, WS, id(i), storeId, 1, `x${i}`, 'live', hash(i)])),
  );
  await db.run(
    'ANALYZE TABLE product, listing_outcome, outcome_rule, product_tag, product_finding, listing, product_facts, product_variant',
  );
}

type Sql = <T>(text: string, values?: readonly unknown[]) => Promise<T[]>;

/** Products of a page with their cells, by hand. */
async function pageByHand(sql: Sql, where: string, order: string): Promise<string> {
  const products = await sql<{ id: string }>(
    `SELECT id, title, blank_id, updated_at FROM product WHERE ${where} ORDER BY ${order} LIMIT 101`,
  );
  const ids = products.slice(0, PAGE).map((product) => product.id);
  const answers = await Promise.all([
    sql(
      'SELECT p.id, b.name, r.name AS partner, f.*, d.product_id AS due FROM product p JOIN blank b ON b.id = p.blank_id JOIN partner r ON r.id = b.partner_id LEFT JOIN product_facts f ON f.product_id = p.id LEFT JOIN judge_due d ON d.product_id = p.id WHERE p.id IN (?)',
      [ids],
    ),
    sql(
      'SELECT o.product_id, o.store_id, o.state, o.broken, o.first_says, o.changed, o.low_minor, o.high_minor, o.left_minor, o.left_ppm, o.under_floor, l.external_id, l.visibility, j.state AS job FROM listing_outcome o LEFT JOIN listing l ON l.product_id = o.product_id AND l.store_id = o.store_id AND l.number = o.number LEFT JOIN job j ON j.id = l.job_id WHERE o.product_id IN (?)',
      [ids],
    ),
  ]);
  return JSON.stringify([products, ...answers]);
}

const COUNTS_BY_HAND = [
  `SELECT COUNT(*) AS n FROM product WHERE workspace_id = '${WS}' AND archived_at IS NULL`,
  `SELECT state, COUNT(DISTINCT product_id) AS n FROM listing_outcome WHERE workspace_id = '${WS}' GROUP BY state`,
  `SELECT store_id, COUNT(DISTINCT product_id) AS n FROM listing_outcome WHERE workspace_id = '${WS}' GROUP BY store_id`,
  `SELECT rule_id, COUNT(DISTINCT product_id) AS n FROM outcome_rule WHERE workspace_id = '${WS}' GROUP BY rule_id`,
  `SELECT finding, COUNT(*) AS n FROM product_finding WHERE workspace_id = '${WS}' GROUP BY finding`,
  `SELECT tag, COUNT(*) AS n FROM product_tag WHERE workspace_id = '${WS}' GROUP BY tag`,
  `SELECT blank_id, COUNT(*) AS n FROM product WHERE workspace_id = '${WS}' AND archived_at IS NULL GROUP BY blank_id`,
  `SELECT COUNT(DISTINCT product_id) AS n FROM listing_outcome WHERE workspace_id = '${WS}' AND under_floor = TRUE`,
  `SELECT l.product_id FROM job j JOIN listing l ON l.job_id = j.id WHERE j.workspace_id = '${WS}' AND j.state IN ('queued', 'running', 'waiting')`,
];

const FILTERED: RangeFilter = { ...WHOLE_RANGE, states: ['in-step'], stores: ['s1', 's2'] };
const FAR = 199;

/** What both give: a filter's answer is right before its time is taken. */
async function holdAgainst(ctx: BenchDatabase['ctx'], sql: Sql): Promise<void> {
  const counts = await rangeCounts(ctx, WS, WHOLE_RANGE);
  const byHand = await Promise.all(COUNTS_BY_HAND.map((text) => sql<{ n: number; state?: string }>(text)));
  const [all, states, rules, tags, under] = [0, 1, 3, 5, 7].map((i) => byHand[i]!);
  assert.equal(counts.total, Number(all![0]!.n));
  assert.equal(counts.underFloor, Number(under![0]!.n));
  assert.deepEqual(
    new Map(counts.states.map(({ value, n }) => [value, n])),
    new Map(states!.map(({ state, n }) => [state, Number(n)])),
  );
  const sum = (list: readonly { n: number }[]) => list.reduce((total, { n }) => total + Number(n), 0);
  assert.equal(sum(counts.rules), sum(rules!));
  assert.equal(sum(counts.tags), sum(tags!));
}

export async function setUp() {
  const database = await benchDatabase();
  await fillRange(database);
  const pool = mysql.createPool({ uri: database.env.TYPICA_DATABASE_URL!, connectionLimit: 12 });
  const sql: Sql = async (text, values = []) => (await pool.query(text, values as never))[0] as never;
  await holdAgainst(database.ctx, sql);
  return { database, sql, close: () => pool.end().then(() => database.close()) };
}

/** What is in use of the heap once everything that nobody needs is gone. */
const heapMb = (): number => {
  v8.setFlagsFromString('--expose-gc');
  (vm.runInNewContext('gc') as () => void)();
  return process.memoryUsage().heapUsed / 1e6;
};

export const first: Bench = {
  name: 'range',
  reference: 'the same page and counts from SQL written by hand, 25,000 products in 4 stores',
  rounds: 15,
  async setup() {
    const { database, sql, close } = await setUp();
    const { ctx } = database;
    const before = heapMb();
    return {
      ours: async () =>
        JSON.stringify(
          await Promise.all([
            rangePage(ctx, WS, WHOLE_RANGE, { sort: 'changed', limit: PAGE, after: null }),
            rangeCounts(ctx, WS, WHOLE_RANGE),
          ]),
        ),
      theirs: () =>
        Promise.all([
          pageByHand(sql, `workspace_id = '${WS}' AND archived_at IS NULL`, 'updated_at DESC, id DESC'),
          ...COUNTS_BY_HAND.map((text) => sql(text).then((rows) => JSON.stringify(rows))),
        ]),
      after: async () => `heap in use ${before.toFixed(0)} MB before, ${heapMb().toFixed(0)} MB after 16 pages`,
      close,
    };
  },
};

export const far: Bench = {
  name: 'range-far',
  reference: 'page 200 of a filtered range by title from SQL written by hand, without its counts',
  rounds: 15,
  async setup() {
    const { database, sql, close } = await setUp();
    const { ctx } = database;
    const pageAfter = (after: string | null) => rangePage(ctx, WS, FILTERED, { sort: 'title', limit: PAGE, after });
    let after: string | null = null;
    let last = '';
    for (let page = 0; page < FAR; page += 1) {
      const told = await pageAfter(after);
      after = told.next;
      last = `${told.rows.at(-1)!.title}\n${told.rows.at(-1)!.id}`;
    }
    const [title, lastId] = last.split('\n');
    const where = `workspace_id = '${WS}' AND archived_at IS NULL AND title >= '${title}' AND (title > '${title}' OR id > '${lastId}')
      AND id IN (SELECT product_id FROM listing_outcome WHERE workspace_id = '${WS}' AND state = 'in-step' AND store_id IN ('s1', 's2'))`;
    return {
      ours: async () => JSON.stringify(await pageAfter(after)),
      theirs: () => pageByHand(sql, where, 'title, id'),
      close,
    };
  },
};
