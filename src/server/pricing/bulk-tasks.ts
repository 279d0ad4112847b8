import { safeLine } from '@/core/csv/safe';
import type { CsvFault } from '@/core/csv/fault';
import { CsvTable } from '@/core/csv/table';
import { invalid, notFound } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import { setAims } from '@/core/pricing/fixing';
import { SHEET_COLUMNS, SheetReader, type SheetChange } from '@/core/pricing/price-sheet';
import { withRule } from '@/core/pricing/rule';
import { inScope } from '@/core/pricing/sale-scope';
import type { Context } from '../context';
import { readRows } from '../csv/body';
import type { Actor } from '../people/people';
import { loadBundles, scopedProduct, type ProductBundle } from '../products/bundle';
import { PRODUCT_COLUMNS, pageOfProducts, type Product } from '../products/products';
import { listStores, outletOf } from '../stores/stores';
import { baseOutlet, type Outlet } from '@/core/pricing/outlet';
import { applyBulk, MAX_CHANGED, viewBulk, type BulkChange, type BulkView } from './bulk';
import { listRules } from './rules';
import { impossibleAims, knownPrices, priceLines, refuseFaulty } from './sheet';

/** Prices of many products at once, by a file or by a rule, in a process of their own (../reckoning). */

/** Columns of prices of all products: those of one, after its id and title. */
export const BULK_COLUMNS = ['product', 'title', ...SHEET_COLUMNS] as const;
const PAGE = 50;
/** Products whose prices are written to one file. */
const MAX_PRODUCTS = 2000;
/** Rows that one file may have. */
const MAX_ROWS = 60_000;

/** By what many products are named; both empty: all of them. */
export interface Many {
  readonly kinds: readonly string[];
  readonly tags: readonly string[];
}

/** All bundles of a workspace that are named, one after the other, read a page at a time. */
async function* bundlesNamed(ctx: Context, workspaceId: string, { kinds, tags }: Many): AsyncGenerator<ProductBundle> {
  const scope = { storeIds: [], productIds: [], kinds, tags };
  for (let after = ''; ;) {
    const products = await pageOfProducts(ctx, workspaceId, after, PAGE);
    if (products.length === 0) return;
    after = products.at(-1)!.id;
    for (const bundle of await loadBundles(ctx, workspaceId, products))
      if (inScope(scope, scopedProduct(bundle))) yield bundle;
  }
}

/** Prices of many products as CSV. Throws `bulk-too-many` where one file cannot hold them. */
export async function exportAllPrices(
  ctx: Context,
  { workspaceId, of }: { readonly workspaceId: string; readonly of: Many },
): Promise<string> {
  const parts = [safeLine(BULK_COLUMNS)];
  let products = 0;
  for await (const bundle of bundlesNamed(ctx, workspaceId, of)) {
    products += 1;
    if (products > MAX_PRODUCTS)
      throw invalid(
        'bulk-too-many',
        `One file holds the prices of ${MAX_PRODUCTS} products, and these are more; ask for those of one kind of good or one tag.`,
      );
    const head = safeLine([bundle.product.id, bundle.product.title]).replace(/\r\n$/, ',');
    const lines = (await priceLines(ctx, bundle)).split('\r\n').filter(Boolean);
    for (const line of lines) parts.push(`${head}${line}\r\n`);
  }
  return parts.join('');
}

const NEEDED = [
  { oneOf: ['product'], says: 'The column “product” is missing: it says of which product a row is, by its id.' },
];

/** Rows of a file by the product that they name. */
class ByProduct {
  readonly faults: CsvFault[] = [];
  headings: readonly string[] = [];
  readonly rows = new Map<string, { fields: readonly string[]; line: number }[]>();
  private readonly table = new CsvTable(NEEDED, this.faults);
  private count = 0;

  row(fields: readonly string[], line: number): void {
    const row = this.table.row(fields, line);
    if (!row) {
      if (this.headings.length === 0) this.headings = fields;
      return;
    }
    this.count += 1;
    if (this.count > MAX_ROWS) {
      if (this.count === MAX_ROWS + 1)
        this.faults.push({
          line,
          column: null,
          code: 'csv-too-long',
          says: `The file has more than ${MAX_ROWS} rows; send it in parts.`,
        });
      return;
    }
    const id = row.at('product');
    this.rows.set(id, [...(this.rows.get(id) ?? []), { fields, line }]);
  }
}

export interface BulkPreview extends BulkView {
  readonly faults: readonly CsvFault[];
  readonly changes: number;
  readonly same: number;
}

const MAX_FAULTS = 200;

async function bundlesOf(ctx: Context, workspaceId: string, ids: readonly string[]): Promise<ProductBundle[]> {
  if (ids.length === 0) return [];
  const products = await ctx.db.rows<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id IN (${ids.map(() => '?').join(',')})`,
    [workspaceId, ...ids],
  );
  return products.length === 0 ? [] : loadBundles(ctx, workspaceId, products);
}

interface ReadFile {
  readonly changes: BulkChange[];
  readonly count: number;
  readonly same: number;
  readonly faults: CsvFault[];
}

/** Reads a file of prices of many products: what it changes of each, and what is wrong, by line. */
async function readFile(ctx: Context, workspaceId: string, csv: Uint8Array): Promise<ReadFile> {
  const file = new ByProduct();
  await readRows(csv, file);
  const faults = [...file.faults];
  const changes: BulkChange[] = [];
  let [same, count] = [0, 0];
  const ids = [...file.rows.keys()];
  for (let i = 0; i < ids.length && faults.length < MAX_FAULTS; i += PAGE) {
    const page = ids.slice(i, i + PAGE);
    const bundles = await bundlesOf(ctx, workspaceId, page);
    for (const id of page) {
      const rows = file.rows.get(id)!;
      const bundle = bundles.find(({ product }) => product.id === id);
      if (!bundle) {
        faults.push({
          line: rows[0]!.line,
          column: 'product',
          code: 'csv-product-unknown',
          says: `There is no product “${id.slice(0, 40)}” in this workspace.`,
        });
        continue;
      }
      const { outlets, known } = await knownPrices(ctx, bundle);
      const reader = new SheetReader(known, outlets);
      reader.row(file.headings, 1);
      for (const { fields, line } of rows) reader.row(fields, line);
      faults.push(...reader.faults, ...impossibleAims(bundle, outlets, reader.changes));
      same += reader.same;
      count += reader.changes.length;
      if (reader.changes.length > 0) changes.push({ bundle, after: withChanges(bundle, reader.changes) });
    }
  }
  return { changes, count, same, faults: faults.slice(0, MAX_FAULTS).sort((a, b) => a.line - b.line) };
}

const withChanges = ({ product }: ProductBundle, changes: readonly SheetChange[]) =>
  changes.reduce((doc, { storeId, variantKey, now }) => setAims(doc, storeId, [variantKey], now), product.document);

/** Outlets at which a change is told: all stores together, and each one. */
async function tellers(ctx: Context, workspaceId: string): Promise<(bundle: ProductBundle) => Outlet[]> {
  const outlets = (await listStores(ctx, workspaceId)).map((store) => outletOf(ctx, store));
  return ({ product, home, settings }) => [baseOutlet(product.document.price.currency, home, settings), ...outlets];
}

export interface BulkFile {
  readonly workspaceId: string;
  readonly csv: Uint8Array;
}

export async function previewAllPrices(ctx: Context, { workspaceId, csv }: BulkFile): Promise<BulkPreview> {
  const { changes, count, same, faults } = await readFile(ctx, workspaceId, csv);
  return { ...viewBulk(changes, await tellers(ctx, workspaceId)), changes: count, same, faults };
}

export async function applyAllPrices(
  ctx: Context,
  { actor, csv }: { readonly actor: Actor; readonly csv: Uint8Array },
): Promise<{ batchId: string; products: number }> {
  const { changes, count, faults } = await readFile(ctx, actor.workspaceId, csv);
  refuseFaulty({ faults, changes, same: 0 });
  return applyBulk(ctx, actor, changes, `Prices from a file (${count})`, 'file');
}

/** A rule that was kept, put to products of a kind of good or with a tag; to all where neither is named. */
export interface RuleToMany extends Many {
  readonly ruleId: string;
}

async function ruled(ctx: Context, workspaceId: string, to: RuleToMany) {
  const rule = (await listRules(ctx, workspaceId)).find(({ id }) => id === to.ruleId);
  if (!rule) throw notFound('price rule', to.ruleId);
  const changes: BulkChange[] = [];
  for await (const bundle of bundlesNamed(ctx, workspaceId, to)) {
    const after = withRule(bundle.product.document, rule.rule);
    if (!sameJson(after.price, bundle.product.document.price)) changes.push({ bundle, after });
    if (changes.length > MAX_CHANGED)
      throw invalid(
        'bulk-too-many',
        `This would change more than ${MAX_CHANGED} products; name a kind of good or a tag.`,
      );
  }
  return { rule, changes };
}

export async function previewRule(
  ctx: Context,
  { workspaceId, to }: { readonly workspaceId: string; readonly to: RuleToMany },
): Promise<BulkView> {
  const { changes } = await ruled(ctx, workspaceId, to);
  return viewBulk(changes, await tellers(ctx, workspaceId));
}

export async function applyRule(
  ctx: Context,
  { actor, to }: { readonly actor: Actor; readonly to: RuleToMany },
): Promise<{ batchId: string; products: number }> {
  const { rule, changes } = await ruled(ctx, actor.workspaceId, to);
  return applyBulk(ctx, actor, changes, `Price by ${rule.name}`, 'rule');
}
