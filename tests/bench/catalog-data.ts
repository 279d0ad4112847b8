import { geometryId, type Geometry } from '../../src/core/geometry/area';
import { canonicalJson } from '../../src/core/canonical/canonical';
import type { Fillable } from './database';
import { randomOf } from '../support/random';

export const BLANKS = 5000;
const COLORS = 12;
const SIZES = ['S', 'M', 'L', 'XL', 'XXL'] as const;
export const VARIANTS = COLORS * SIZES.length;
export const PARTNERS = ['bench-a', 'bench-b', 'bench-c', 'bench-d', 'bench-e'] as const;

const KINDS = ['apparel', 'drinkware', 'wall art', 'paper goods', 'accessories', 'home'];
const MATERIALS = ['cotton', 'ceramic', 'paper', 'steel', 'wood', 'linen', 'polyester'];
const TECHNIQUES = ['direct-to-garment', 'sublimation', 'embroidery', 'giclee', 'uv'];
const COUNTRIES = ['GB', 'US', 'DE'];
const CURRENCIES = ['GBP', 'USD', 'EUR'];
const NOUNS = ['Tee', 'Hoodie', 'Mug', 'Poster', 'Tote', 'Cushion', 'Bottle', 'Towel', 'Cap', 'Block'];
const WORDS = [
  'Towpath',
  'Launch',
  'Slipway',
  'Landing',
  'Galley',
  'Bailer',
  'River',
  'Rigger',
  'Pennant',
  'Dawn',
  'Estuary',
  'Weir',
  'Sluice',
  'Osier',
  'Heron',
  'Skiff',
];

export const blankIdOf = (index: number): string => `b${String(index).padStart(6, '0')}`;
export const skuOf = (index: number, color: number, size: string): string =>
  `BN-${WORDS[index % WORDS.length]!.toUpperCase()}${NOUNS[index % NOUNS.length]!.toUpperCase()}${index}-C${color}-${size}`;

/** Fills a database with blanks of 60 variants, price lists and rates, straight into the tables. */
export async function fillCatalog(
  { ctx, fill }: Fillable,
  partners: readonly string[] = PARTNERS,
  count = BLANKS,
): Promise<void> {
  const chance = randomOf(7);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)]!;
  const hexes = Array.from(
    { length: 40 },
    () =>
      `#${Math.floor(chance() * 0xffffff)
        .toString(16)
        .padStart(6, '0')}`,
  );
  const rows = <T>(each: (index: number) => T[]): T[] => Array.from({ length: count }, (_, i) => each(i)).flat();
  const geometry: Geometry = {
    widthMm: 300,
    heightMm: 400,
    outline: null,
    anchor: { xMm: 150, yMm: 0 },
    bleedMm: 0,
    safeMm: 6,
    dpi: 300,
    technique: 'direct-to-garment',
  };
  const currencyOf = (p: number) => CURRENCIES[p % CURRENCIES.length]!;

  await fill(
    'partner',
    'id, code, name, country, currency',
    partners.map((code, i) => [code, code, `Partner ${code}`, COUNTRIES[i % 3]!, currencyOf(i)]),
  );
  await fill(
    'good',
    'id, code, name, kind',
    rows((i) => [[`g${i}`, `good-${i}`, `Good ${i}`, KINDS[i % KINDS.length]!]]),
  );
  await fill(
    'blank',
    'id, good_id, partner_id, code, name, description, facts, material, ships_from, parcel_class, making_days_min, making_days_max',
    rows((i) => {
      const days = 1 + Math.floor(chance() * 6);
      return [
        [
          blankIdOf(i),
          `g${i}`,
          partners[i % partners.length]!,
          `blank-${i}`,
          `${pick(WORDS)} ${NOUNS[i % NOUNS.length]} ${i}`,
          `A ${pick(WORDS).toLowerCase()} thing of ${pick(MATERIALS)}, made to order and sent flat.`,
          '{"Care":"Cold wash"}',
          pick(MATERIALS),
          pick(COUNTRIES),
          `class-${i % 8}`,
          days,
          days + 2,
        ],
      ];
    }),
  );
  await fill(
    'piece',
    'blank_id, code, name, position',
    rows((i) => [[blankIdOf(i), 'main', 'Main', 0]]),
  );
  await fill('geometry', 'id, document', [[geometryId(geometry), canonicalJson(geometry)]]);
  const areasOf = (i: number) => 1 + (i % 4);
  await fill(
    'area',
    'blank_id, area_key, piece_code, name, technique, position',
    rows((i) =>
      Array.from({ length: areasOf(i) }, (_, a) => [
        blankIdOf(i),
        `main.a${a}`,
        'main',
        `Area ${a}`,
        TECHNIQUES[(i + a) % 3]!,
        a,
      ]),
    ),
  );
  await fill(
    'area_geometry',
    'blank_id, area_key, position, geometry_id, applies',
    rows((i) =>
      Array.from({ length: areasOf(i) }, (_, a) => [blankIdOf(i), `main.a${a}`, 0, geometryId(geometry), '{}']),
    ),
  );
  await fill(
    'blank_option',
    'blank_id, option_code, name, position',
    rows((i) => [
      [blankIdOf(i), 'color', 'Color', 0],
      [blankIdOf(i), 'size', 'Size', 1],
    ]),
  );
  await fill(
    'blank_option_value',
    'blank_id, option_code, value_code, name, position, hex',
    rows((i) =>
      Array.from({ length: COLORS }, (_, c) => [
        blankIdOf(i),
        'color',
        `c${c}`,
        `Color ${c}`,
        c,
        hexes[(i * 7 + c * 3) % hexes.length]!,
      ]),
    ),
  );
  await fill(
    'blank_option_value',
    'blank_id, option_code, value_code, name, position',
    rows((i) => SIZES.map((s, n) => [blankIdOf(i), 'size', s.toLowerCase(), s, n])),
  );
  const variants = rows((i) =>
    Array.from({ length: COLORS }, (_, c) =>
      SIZES.map((s, n) => ({ i, c, s, key: `color=c${c};size=${s.toLowerCase()}`, position: c * SIZES.length + n })),
    ).flat(),
  );
  await fill(
    'blank_variant',
    'blank_id, variant_key, position, partner_id, sku, weight_g, stock',
    variants.map((v) => [
      blankIdOf(v.i),
      v.key,
      v.position,
      partners[v.i % partners.length]!,
      skuOf(v.i, v.c, v.s),
      200,
      chance() < 0.15 ? 0 : 500,
    ]),
  );
  await fill(
    'blank_variant_value',
    'blank_id, variant_key, option_code, value_code',
    (function* () {
      for (const v of variants) {
        yield [blankIdOf(v.i), v.key, 'color', `c${v.c}`];
        yield [blankIdOf(v.i), v.key, 'size', v.s.toLowerCase()];
      }
    })(),
  );
  await fill(
    'price_list',
    'id, partner_id, currency, valid_from',
    partners.map((code, i) => [`x-${code}`, code, currencyOf(i), '2026-01-01']),
  );
  await fill(
    'price_list_variant',
    'price_list_id, blank_id, variant_key, base_cost_minor',
    variants.map((v) => [
      `x-${partners[v.i % partners.length]}`,
      blankIdOf(v.i),
      v.key,
      400 + ((v.i * 37) % 2000) + (v.s === 'XXL' ? 150 : 0),
    ]),
  );
  await fill(
    'price_list_shipping',
    'price_list_id, parcel_class, region, countries, first_minor, further_minor, days_min, days_max, position',
    partners.flatMap((code) =>
      Array.from({ length: 8 }, (_, k) => [
        [`x-${code}`, `class-${k}`, 'near', '["GB","DE"]', 300 + 40 * k, 120, 2, 4, 0],
        [`x-${code}`, `class-${k}`, 'world', '["*"]', 900 + 40 * k, 320, 8, 16, 1],
      ]).flat(),
    ),
  );
  await fill('exchange_rate', 'from_currency, to_currency, rate_date, rate, source', [
    ['GBP', 'USD', '2026-11-02', '1.3120', 'bench'],
    ['GBP', 'EUR', '2026-11-02', '1.1460', 'bench'],
    ['EUR', 'USD', '2026-11-02', '1.1448', 'bench'],
  ]);
  await fill('workspace', 'id, name, currency, country', [['w-bench', 'Bench', 'GBP', 'GB']]);
  await ctx.db.run('UPDATE catalog_version SET version = version + 1');
  for (const table of [
    'blank',
    'blank_variant',
    'blank_variant_value',
    'blank_option_value',
    'area',
    'price_list_variant',
  ])
    await ctx.db.rows(`ANALYZE TABLE ${table}`);
}
