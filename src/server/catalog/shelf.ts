import { LRUCache } from 'lru-cache';
import { browse } from '@/core/catalog/browse';
import { parseVariantKey, type OptionFilter } from '@/core/catalog/blank';
import { familyOf } from '@/core/catalog/families';
import { buildSearch, type ShelfSearch } from '@/core/catalog/search';
import { rankBlanks, type ShelfBlank, type ShelfPrices, type ShelfQuery } from '@/core/catalog/shelf';
import { printSizePx, type Geometry, type Technique } from '@/core/geometry/area';
import { groupBy } from '@/core/group';
import { RateTable } from '@/core/pricing/rates';
import type { Context } from '../context';
import type { Pools } from '../db/pool';
import { loadMoney } from '../pricing/settings';
import { reckon } from '../reckoning/reckoners';
import { loadExchangeRates } from '../rates/rates';
import { listsInForce, loadShipping } from './blanks';
import type { Browsed } from './browsed';
import { ownEntry } from '@/core/own-entry';

/** The shared catalog as it is browsed, kept in memory until its version changes. See docs/decisions/0008. */
interface Shelf {
  readonly version: number;
  readonly blanks: readonly ShelfBlank[];
  readonly byId: ReadonlyMap<string, ShelfBlank>;
  readonly search: ShelfSearch;
  /** Names by id. */
  readonly partners: { readonly [id: string]: string };
  /** Price lists never change once they are in force: by id, the least recently used first. */
  readonly prices: LRUCache<string, Promise<ShelfPrices>>;
}

/** The option that the filter of sizes is about. */
const SIZE_OPTION = 'size';

/** Price lists kept in memory at once. */
const MAX_LISTS = 64;

const shelves = new WeakMap<Pools, { version: number; shelf: Promise<Shelf> }>();

async function shelfOf(ctx: Context): Promise<Shelf> {
  const version = Number((await ctx.db.row<{ version: number }>('SELECT version FROM catalog_version'))?.version ?? 0);
  const have = shelves.get(ctx.pools);
  if (have?.version === version) return have.shelf;
  const shelf = loadShelf(ctx, version);
  shelves.set(ctx.pools, { version, shelf });
  // What could not be loaded is tried again by whoever asks next.
  shelf.catch(() => shelves.delete(ctx.pools));
  return shelf;
}

const grouped = <T extends { blankId: string }>(rows: readonly T[]) => groupBy(rows, (row) => row.blankId);

interface BlankRow {
  id: string;
  code: string;
  name: string;
  kind: string;
  description: string;
  facts: Record<string, string>;
  material: string;
  shipsFrom: string;
  parcelClass: string;
  makingDaysMin: number;
  makingDaysMax: number;
  partnerId: string;
  partnerName: string;
}

async function loadShelf(ctx: Context, version: number): Promise<Shelf> {
  const [blanks, areas, values, pieces, shots, variants] = await Promise.all([
    ctx.db.rows<BlankRow>(
      `SELECT b.id, b.code, b.name, g.kind, b.description, b.facts, b.material, b.ships_from AS shipsFrom, b.parcel_class AS parcelClass,
       b.making_days_min AS makingDaysMin, b.making_days_max AS makingDaysMax, p.id AS partnerId, p.name AS partnerName
       FROM blank b JOIN good g ON g.id = b.good_id JOIN partner p ON p.id = b.partner_id ORDER BY b.name, p.name, b.id`,
    ),
    ctx.db.rows<{
      blankId: string;
      key: string;
      name: string;
      pieceCode: string;
      technique: Technique;
      document: Geometry;
      applies: OptionFilter;
    }>(
      `SELECT a.blank_id AS blankId, a.area_key AS \`key\`, a.name, a.piece_code AS pieceCode, a.technique, g.document
       FROM area a JOIN area_geometry ag ON ag.blank_id = a.blank_id AND ag.area_key = a.area_key AND ag.position = 0 JOIN geometry g ON g.id = ag.geometry_id
       ORDER BY a.blank_id, a.position`,
    ),
    ctx.db.rows<{
      blankId: string;
      optionCode: string;
      option: string;
      optionPiece: string | null;
      code: string;
      name: string;
      hex: string | null;
    }>(
      `SELECT v.blank_id AS blankId, v.option_code AS optionCode, o.name AS \`option\`, o.piece_code AS optionPiece, v.value_code AS code, v.name, v.hex
       FROM blank_option_value v JOIN blank_option o ON o.blank_id = v.blank_id AND o.option_code = v.option_code
       ORDER BY v.blank_id, o.position, v.position`,
    ),
    ctx.db.rows<{ blankId: string; code: string; name: string }>(
      'SELECT blank_id AS blankId, code, name FROM piece ORDER BY blank_id, position',
    ),
    ctx.db.rows<{ blankId: string; hash: string }>(
      'SELECT blank_id AS blankId, LEFT(content_hash, 16) AS hash FROM shot WHERE workspace_id IS NULL ORDER BY blank_id, position DESC, id DESC',
    ),
    ctx.db.arrays<[blankId: string, key: string, stock: number, ended: number]>(
      'SELECT blank_id, variant_key, stock, ended_at IS NOT NULL FROM blank_variant ORDER BY blank_id, position',
    ),
  ]);
  const [areasOf, valuesOf, piecesOf] = [grouped(areas), grouped(values), grouped(pieces)];
  // The first shot of each comes last.
  const shotOf = new Map(shots.map(({ blankId, hash }) => [blankId, hash]));
  const variantsOf = groupBy(variants, ([blankId]) => blankId);
  const families = new Map<string, ReturnType<typeof familyOf>>();
  const family = (hex: string) => {
    let found = families.get(hex);
    if (!found) families.set(hex, (found = familyOf(hex)));
    return found;
  };
  const ranks = rankBlanks(blanks);
  const shelved = blanks.map((b): ShelfBlank => {
    const own = valuesOf.get(b.id) ?? [];
    const colorCode = own.find((value) => value.hex !== null)?.optionCode ?? null;
    const colors = own.filter((value) => value.optionCode === colorCode);
    const sizes = own.filter((value) => value.optionCode === SIZE_OPTION);
    const choices = new Map<string, string[]>();
    for (const value of own)
      if (value.optionCode !== colorCode && value.optionCode !== SIZE_OPTION)
        choices.set(value.option, [...(choices.get(value.option) ?? []), value.name]);
    const rows = variantsOf.get(b.id) ?? [];
    const indexIn = (list: typeof own) => new Map(list.map((value, i) => [value.code, i]));
    const [colorAt, sizeAt] = [indexIn(colors), indexIn(sizes)];
    const chosen = rows.map(([, key]) => parseVariantKey(key));
    return {
      id: b.id,
      rank: ranks.get(b.id)!,
      code: b.code,
      name: b.name,
      kind: b.kind,
      material: b.material,
      description: b.description,
      factsText: Object.values(b.facts).join(' '),
      partner: { id: b.partnerId, name: b.partnerName },
      shipsFrom: b.shipsFrom,
      parcelClass: b.parcelClass,
      makingDays: { min: b.makingDaysMin, max: b.makingDaysMax },
      techniques: [...new Set((areasOf.get(b.id) ?? []).map((area) => area.technique))],
      areas: (areasOf.get(b.id) ?? []).map(({ key, name, pieceCode, document: g }) => ({
        key,
        name,
        pieceCode,
        widthMm: g.widthMm,
        heightMm: g.heightMm,
        outline: g.outline,
        dpi: g.dpi,
        ...printSizePx(g),
      })),
      colorOf: colorCode === null ? null : { optionCode: colorCode, pieceCode: colors[0]!.optionPiece },
      colors: colors.map(({ code, name, hex }) => ({ code, name, hex: hex!, family: family(hex!) })),
      sizes: sizes.map((value) => value.name),
      choices: [...choices].map(([name, names]) => ({ name, values: names })),
      pieces: (piecesOf.get(b.id) ?? []).map(({ code, name }) => ({ code, name })),
      shotHash: shotOf.get(b.id) ?? null,
      variants: {
        keys: rows.map(([, key]) => key),
        color: Int16Array.from(chosen, (values) => colorAt.get(ownEntry(values, colorCode ?? '') ?? '') ?? -1),
        size: Int16Array.from(chosen, (values) => sizeAt.get(values[SIZE_OPTION] ?? '') ?? -1),
        stock: Int32Array.from(rows, ([, , stock]) => stock),
        ended: Uint8Array.from(rows, ([, , , ended]) => ended),
      },
    };
  });
  return {
    version,
    blanks: shelved,
    byId: new Map(shelved.map((blank) => [blank.id, blank])),
    search: buildSearch(shelved),
    partners: Object.fromEntries(blanks.map((blank) => [blank.partnerId, blank.partnerName])),
    prices: new LRUCache({ max: MAX_LISTS }),
  };
}

/** The list laid beside the shelf's variants. */
async function loadPrices(
  ctx: Context,
  shelf: Shelf,
  list: { id: string; currency: string; validFrom: string },
): Promise<ShelfPrices> {
  const [rows, charges, lines] = await Promise.all([
    ctx.db.arrays<[blankId: string, key: string, minor: number, stock: number | null, ended: number]>(
      'SELECT blank_id, variant_key, base_cost_minor, stock, ended FROM price_list_variant WHERE price_list_id = ? ORDER BY blank_id',
      [list.id],
    ),
    ctx.db.rows<{ blankId: string; least: number }>(
      'SELECT blank_id AS blankId, MIN(technique_minor) AS least FROM price_list_area WHERE price_list_id = ? GROUP BY blank_id',
      [list.id],
    ),
    loadShipping(ctx, [list.id]),
  ]);
  const printing = new Map(charges.map(({ blankId, least }) => [blankId, Number(least)]));
  const blanks = new Map<string, { costMinor: Int32Array; printMinor: number; stock: Int32Array; ended: Uint8Array }>();
  let blankId = '';
  let index = new Map<string, number>();
  let columns: { costMinor: Int32Array; printMinor: number; stock: Int32Array; ended: Uint8Array } | null = null;
  for (const [id, key, minor, stock, ended] of rows) {
    if (id !== blankId) {
      blankId = id;
      const keys = shelf.byId.get(id)?.variants.keys;
      if (keys) {
        index = new Map(keys.map((variantKey, i) => [variantKey, i]));
        columns = {
          costMinor: new Int32Array(keys.length).fill(-1),
          printMinor: printing.get(id) ?? 0,
          stock: new Int32Array(keys.length).fill(-1),
          ended: new Uint8Array(keys.length),
        };
        blanks.set(id, columns);
      } else columns = null;
    }
    const at = columns ? index.get(key) : undefined;
    if (columns && at !== undefined) {
      columns.costMinor[at] = minor;
      if (stock !== null) columns.stock[at] = stock;
      columns.ended[at] = ended;
    }
  }
  const shipping = new Map<string, ShelfPrices['shipping'] extends ReadonlyMap<string, infer L> ? L : never>();
  for (const { parcelClass, region, countries, firstMinor, furtherMinor, daysMin, daysMax } of lines) {
    const line = {
      region,
      countries,
      firstMinor: Number(firstMinor),
      furtherMinor: Number(furtherMinor),
      daysMin,
      daysMax,
    };
    shipping.set(parcelClass, [...(shipping.get(parcelClass) ?? []), line]);
  }
  return { currency: list.currency, validFrom: list.validFrom, blanks, shipping };
}

function pricesOf(
  ctx: Context,
  shelf: Shelf,
  list: { id: string; currency: string; validFrom: string },
): Promise<ShelfPrices> {
  const have = shelf.prices.get(list.id);
  if (have) return have;
  const prices = loadPrices(ctx, shelf, list);
  shelf.prices.set(list.id, prices);
  prices.catch(() => shelf.prices.delete(list.id));
  return prices;
}

/** Answers a query in the process that holds the shelf. Throws `rate-missing`. */
export const browseCatalog = (
  ctx: Context,
  { workspaceId, currency }: { readonly workspaceId: string; readonly currency: string },
  query: ShelfQuery,
): Promise<Browsed> => reckon(ctx, 'browse', { workspace: { workspaceId, currency }, query }, workspaceId);

/** Answers a query for a workspace: prices, stock and ended variants as they are in force there. Throws `rate-missing`. */
export async function browseShelf(
  ctx: Context,
  workspace: { readonly workspaceId: string; readonly currency: string },
  query: ShelfQuery,
): Promise<Browsed> {
  const [shelf, lists, exchangeRates, { settings }] = await Promise.all([
    shelfOf(ctx),
    listsInForce(ctx.db, workspace.workspaceId),
    loadExchangeRates(ctx, workspace.workspaceId),
    loadMoney(ctx, workspace.workspaceId),
  ]);
  const rates = new RateTable(exchangeRates, settings.rateMarginPpm);
  const prices = new Map<string, ShelfPrices>();
  for (const [partnerId, list] of lists) prices.set(partnerId, await pricesOf(ctx, shelf, list));
  const answer = browse(
    shelf.blanks,
    (partnerId) => prices.get(partnerId),
    query.text ? shelf.search.find(query.text) : null,
    query,
    workspace.currency,
    rates,
    settings.discounts,
  );
  const foreign = [...new Set([...prices.values()].map((list) => list.currency))].filter(
    (c) => c !== workspace.currency,
  );
  const dates = foreign.map((currency) => rates.find(currency, workspace.currency).date).sort();
  return {
    ...answer,
    currency: workspace.currency,
    ratesOf: dates[0] ?? null,
    partners: shelf.partners,
  };
}
