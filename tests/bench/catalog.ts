import { familyOf } from '../../src/core/catalog/families';
import { AREA_STEPS, MAKING_STEPS } from '../../src/core/shelf/browse-facets';
import { EMPTY_QUERY, type FacetValue, type ShelfQuery } from '../../src/core/shelf/shelf';
import type { Browsed } from '../../src/server/catalog/browsed';
import { browseShelf } from '../../src/server/catalog/shelf';
import { benchDatabase } from './database';
import { randomOf } from '../support/random';
import { BLANKS, fillCatalog, VARIANTS } from './catalog-data';
import type { Bench } from './bench';

const QUERY: ShelfQuery = {
  ...EMPTY_QUERY,
  kind: 'apparel',
  sizes: ['XL'],
  families: ['blue', 'teal'],
  inStock: true,
  country: 'DE',
  sort: 'landed',
  limit: 60,
};
const SEARCHES = 400;

/** Bits of what a blank and a variant do not fit; counts for a choice leave out its own bit. */
const [KIND, SIZE, FAMILY, STOCK] = [1, 2, 4, 8] as const;

const bench: Bench = {
  name: 'catalog',
  reference: `bare SQL by hand for the same rows and counts, over ${BLANKS} blanks × ${VARIANTS} variants`,
  rounds: 9,
  async setup() {
    const database = await benchDatabase();
    const { ctx } = database;
    await fillCatalog(database);
    const workspace = { workspaceId: 'w-bench', currency: 'GBP' };
    const began = performance.now();
    await browseShelf(ctx, workspace, QUERY);
    const coldMs = performance.now() - began;

    // The reference is given the families' colors and the rates as numbers, which SQL cannot find by itself.
    const hexes = await ctx.db.rows<{ hex: string }>(
      'SELECT DISTINCT hex FROM blank_option_value WHERE hex IS NOT NULL',
    );
    const familyOfHex = new Map(hexes.map(({ hex }) => [hex, familyOf(hex)]));
    const wanted = hexes.map(({ hex }) => hex).filter((hex) => QUERY.families.includes(familyOfHex.get(hex)!));

    const bySql = () =>
      ctx.pools.withConnection(async (db) => {
        const marks = wanted.map(() => '?').join(',');
        await db.run('DROP TEMPORARY TABLE IF EXISTS fit');
        // One pass over the variants: for each what it does not fit, and its cost at the door in the workspace's currency.
        await db.run(
          `CREATE TEMPORARY TABLE fit (KEY (miss)) SELECT b.id, sv.name AS size, cv.hex,
             IF(g.kind = 'apparel', 0, ${KIND}) | IF(sv.name = 'XL', 0, ${SIZE}) | IF(cv.hex IN (${marks}), 0, ${FAMILY}) | IF(v.stock > 0, 0, ${STOCK}) AS miss,
             v.stock > 0 AS there,
             ROUND(CAST(c.base_cost_minor AS DECIMAL(20, 10)) / r.per) + ROUND(CAST(s.first_minor AS DECIMAL(20, 10)) / r.per) AS landed
           FROM blank b JOIN good g ON g.id = b.good_id
             JOIN price_list l ON l.partner_id = b.partner_id AND l.workspace_id IS NULL AND l.valid_from <= UTC_DATE()
             JOIN (SELECT 'GBP' AS currency, 1.0000 AS per UNION ALL SELECT 'USD', 1.3120 UNION ALL SELECT 'EUR', 1.1460) r ON r.currency = l.currency
             JOIN price_list_shipping s ON s.price_list_id = l.id AND s.parcel_class = b.parcel_class AND s.region = 'near'
             JOIN blank_variant v ON v.blank_id = b.id AND v.ended_at IS NULL
             JOIN price_list_variant c ON c.price_list_id = l.id AND c.blank_id = v.blank_id AND c.variant_key = v.variant_key
             JOIN blank_variant_value vs ON vs.blank_id = v.blank_id AND vs.variant_key = v.variant_key AND vs.option_code = 'size'
             JOIN blank_option_value sv ON sv.blank_id = v.blank_id AND sv.option_code = 'size' AND sv.value_code = vs.value_code
             JOIN blank_variant_value vc ON vc.blank_id = v.blank_id AND vc.variant_key = v.variant_key AND vc.option_code = 'color'
             JOIN blank_option_value cv ON cv.blank_id = v.blank_id AND cv.option_code = 'color' AND cv.value_code = vc.value_code
           WHERE g.kind = 'apparel' OR (sv.name = 'XL' AND cv.hex IN (${marks}) AND v.stock > 0)`,
          [...wanted, ...wanted],
        );
        const rows = await db.rows<{ id: string; landed: string }>(
          `SELECT b.id, MIN(f.landed) AS landed FROM fit f JOIN blank b ON b.id = f.id JOIN partner p ON p.id = b.partner_id WHERE f.miss = 0
           GROUP BY b.id, b.name, p.name ORDER BY landed, b.name, p.name, b.id LIMIT 60`,
        );
        const [total] = await db.rows<{ n: number }>('SELECT COUNT(DISTINCT id) AS n FROM fit WHERE miss = 0');
        const count = (value: string, from: string, miss: string, also = '') =>
          db.rows<FacetValue>(
            `SELECT ${value} AS value, COUNT(DISTINCT f.id) AS count FROM fit f ${from} WHERE ${miss} ${also} GROUP BY ${value}`,
          );
        const none = 'f.miss = 0';
        const blank = 'JOIN blank b ON b.id = f.id';
        const counts = {
          kind: await count('g.kind', `${blank} JOIN good g ON g.id = b.good_id`, `f.miss & ~${KIND} = 0`),
          technique: await count('a.technique', 'JOIN area a ON a.blank_id = f.id', none),
          shipsFrom: await count('b.ships_from', blank, none),
          size: await count('f.size', '', `f.miss & ~${SIZE} = 0`),
          hex: await db.rows<{ id: string; hex: string }>(
            `SELECT DISTINCT id, hex FROM fit WHERE miss & ~${FAMILY} = 0`,
          ),
          material: await count('b.material', blank, none),
          partner: await count('b.partner_id', blank, none),
          areas: await count(
            'n.areas',
            'JOIN (SELECT blank_id, COUNT(*) AS areas FROM area GROUP BY blank_id) n ON n.blank_id = f.id',
            none,
          ),
          making: await count('b.making_days_max', blank, none),
          inStock: await db.row<{ n: number }>(
            `SELECT COUNT(DISTINCT id) AS n FROM fit WHERE miss & ~${STOCK} = 0 AND there`,
          ),
        };
        return { rows, total: total!.n, counts };
      });

    const ours = () => browseShelf(ctx, workspace, QUERY);
    agree(await ours(), await bySql(), familyOfHex);

    return {
      ours,
      theirs: bySql,
      async after() {
        const text = await searches(ctx, workspace);
        return `${text}\n  first answer after a change of the catalog, all read again: ${coldMs.toFixed(0)} ms`;
      },
      close: () => database.close(),
    };

    async function searches(context: typeof ctx, who: typeof workspace): Promise<string> {
      const chance = randomOf(11);
      const words = [
        'towpath',
        'slipway tee',
        'gallye mug',
        'rivr poster',
        'cotton hoodie',
        'estuary',
        'landing tote linen',
        'penant block',
        'heron',
        'skif',
      ];
      const times: number[] = [];
      for (let i = 0; i < SEARCHES; i += 1) {
        const word = words[Math.floor(chance() * words.length)]!;
        // As it is typed: each beginning of it is asked for.
        const text = word.slice(0, 2 + Math.floor(chance() * (word.length - 1)));
        const start = performance.now();
        await browseShelf(context, who, { ...EMPTY_QUERY, text, sort: 'match' });
        times.push(performance.now() - start);
      }
      times.sort((a, b) => a - b);
      const at = (share: number) => times[Math.floor(share * (times.length - 1))]!;
      return `bench catalog-search budget 100 ms at the 95th percentile (median ${at(0.5).toFixed(1)} ms, 95th ${at(0.95).toFixed(1)} ms, ${SEARCHES} searches)`;
    }
  },
};
export default bench;

type Reference = Awaited<ReturnType<Awaited<ReturnType<Bench['setup']>>['theirs']>>;

/** Both must have found the same, or the comparison says nothing. */
function agree(mine: Browsed, reference: Reference, familyOfHex: ReadonlyMap<string, string>): void {
  const { rows, total, counts } = reference as {
    rows: { id: string; landed: string }[];
    total: number;
    counts: Record<string, FacetValue[]> & { hex: { id: string; hex: string }[]; inStock: { n: number } };
  };
  const table = (values: readonly FacetValue[]) =>
    JSON.stringify(values.map((v) => [String(v.value), Number(v.count)]).sort());
  const same = (what: string, a: unknown, b: unknown) => {
    if (JSON.stringify(a) !== JSON.stringify(b))
      throw new Error(`the reader and the SQL disagree on ${what}: ${JSON.stringify(a)} and ${JSON.stringify(b)}`);
  };
  same('how many', mine.total, Number(total));
  same(
    'the rows',
    mine.rows.map((row) => [row.blank.id, row.landedEachMinor]),
    rows.map((row) => [row.id, Number(row.landed)]),
  );
  for (const facet of ['kind', 'technique', 'shipsFrom', 'size', 'material', 'partner'] as const)
    same(facet, table(mine.facets[facet]), table(counts[facet]!));
  const families = new Map<string, Set<string>>();
  for (const { id, hex } of counts.hex) {
    const family = familyOfHex.get(hex)!;
    families.set(family, (families.get(family) ?? new Set()).add(id));
  }
  same('family', table(mine.facets.family), table([...families].map(([value, ids]) => ({ value, count: ids.size }))));
  const upTo = (values: FacetValue[], step: number) =>
    values.filter((v) => Number(v.value) <= step).reduce((n, v) => n + Number(v.count), 0);
  const atLeast = (values: FacetValue[], step: number) =>
    values.filter((v) => Number(v.value) >= step).reduce((n, v) => n + Number(v.count), 0);
  same(
    'making',
    table(mine.facets.making),
    table(
      MAKING_STEPS.map((step) => ({ value: String(step), count: upTo(counts.making!, step) })).filter(
        (v) => v.count > 0,
      ),
    ),
  );
  same(
    'areas',
    table(mine.facets.areas),
    table(
      AREA_STEPS.map((step) => ({ value: String(step), count: atLeast(counts.areas!, step) })).filter(
        (v) => v.count > 0,
      ),
    ),
  );
  same('in stock', mine.facets.inStock, Number(counts.inStock.n));
}
