import fs from 'node:fs/promises';
import path from 'node:path';
import type { Context } from '../src/server/context';
import type { CatalogBlank, PartnerCatalog } from '../src/core/partner-file/partner-catalog';
import { importCatalog } from '../src/server/catalog/import';

/** Exchange rates of the demo: made up, near what such rates are, dated. */
const RATES: [string, string, string][] = [
  ['GBP', 'USD', '1.3120'],
  ['GBP', 'EUR', '1.1460'],
  ['EUR', 'USD', '1.1448'],
];

const readJson = async (file: string): Promise<unknown> => JSON.parse(await fs.readFile(file, 'utf8'));

/** A partner's catalog from its folder: partner.json and one file for each blank. */
export async function readPartnerCatalog(folder: string): Promise<PartnerCatalog> {
  const files = (await fs.readdir(folder)).filter((name) => name.endsWith('.json') && name !== 'partner.json').sort();
  const blanks = await Promise.all(files.map((name) => readJson(path.join(folder, name)) as Promise<CatalogBlank>));
  return { ...((await readJson(path.join(folder, 'partner.json'))) as Omit<PartnerCatalog, 'blanks'>), blanks };
}

/**
 * Loads the demo's partners, blanks, prices, shots and rates from the files in `folder` (demo/). Loading again changes nothing. With `only`, no
 * shots but these: all together are 57 MB.
 */
export async function loadCatalog(ctx: Context, folder: string, only: readonly string[] | null = null): Promise<void> {
  const shots = path.join(folder, 'shots');
  for (const name of ['millrace', 'cinder-lane', 'oststern']) {
    const whole = await readPartnerCatalog(path.join(folder, 'catalog', name));
    const blanks = whole.blanks.map((blank) => ({
      ...blank,
      shots: blank.shots.filter((code) => !only || only.includes(code)),
    }));
    const catalog = { ...whole, blanks };
    await importCatalog(ctx, catalog, (code, file) =>
      fs.readFile(path.join(shots, path.basename(code), path.basename(file))),
    );
  }
  await ctx.db.insertMany(
    'exchange_rate',
    ['from_currency', 'to_currency', 'rate_date', 'rate', 'source'],
    RATES.map(([from, to, rate]) => [from, to, '2026-11-02', rate, 'Typica demo']),
    'ON DUPLICATE KEY UPDATE rate = VALUE(rate)',
  );
}
