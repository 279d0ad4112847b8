import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isTypicaError } from '@/core/errors';
import { variantKey } from '@/core/catalog/blank';
import { importCatalog, type PartnerCatalog } from '@/server/catalog/import';
import { loadOffers } from '@/server/catalog/blanks';
import { loadCatalog, readPartnerCatalog } from '../../demo/catalog';
import { makeActor, makeWorld, type World } from '../support/world';

let world: World;
let millrace: PartnerCatalog;
const demo = path.resolve(import.meta.dirname, '../../demo');
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  millrace = await readPartnerCatalog(path.join(demo, 'catalog/millrace'));
});
afterAll(() => world.close());
const noShots = async () => {
  throw new Error('no shot is read here');
};
const tee = async (workspaceId: string) => {
  const offers = await loadOffers(world.ctx, workspaceId);
  const { blank, list } = offers.find((o) => o.blank.code === 'towpath-tee' && o.blank.partner.code === 'millrace')!;
  return { blank, list: list! };
};

describe('the catalog', () => {
  it('loads twice without a second of anything', async () => {
    const count = async () =>
      world.ctx.db.rows(
        'SELECT (SELECT COUNT(*) FROM blank) b, (SELECT COUNT(*) FROM price_list) p, (SELECT COUNT(*) FROM geometry) g, (SELECT COUNT(*) FROM shot) s, (SELECT COUNT(*) FROM blank_variant) v',
      );
    const before = await count();
    await loadCatalog(world.ctx, demo);
    expect(await count()).toEqual(before);
    expect(before).toMatchObject([{ b: 21, p: 3, s: 11 }]);
  });

  it('chooses geometry and cost by option values, and knows what is out of stock', async () => {
    const { blank, list } = await tee((await makeActor(world.ctx)).workspaceId);
    const key = (color: string, size: string) => variantKey({ color, size });
    expect(list.baseCostMinor[key('chalk', 'm')]).toBe(690);
    expect(list.baseCostMinor[key('coal', 'xxl')]).toBe(890);
    expect(blank.variants.find((v) => v.key === key('kelp', 'xxl'))!.inStock).toBe(false);
    expect(blank.areas[0]!.geometries.map((g) => blank.geometries[g.geometryId]!.widthMm)).toEqual([305, 356]);
    expect(blank.variants.find((v) => v.key === key('coal', 'm'))!.partnerSku).toBe('MW-TOWPATHTEE-COAL-M');
  });

  it('takes a newer price list from its date on, and a workspace’s own over it, for that workspace alone', async () => {
    const [one, two] = [await makeActor(world.ctx), await makeActor(world.ctx)];
    const dearer = (validFrom: string, by: number): PartnerCatalog => ({
      ...millrace,
      validFrom,
      blanks: millrace.blanks.map((b) => ({
        ...b,
        shots: [],
        costs: b.costs.map((c) => ({ ...c, costMinor: c.costMinor + by })),
      })),
    });
    await importCatalog(world.ctx, dearer('2026-11-01', 50), noShots);
    await importCatalog(world.ctx, dearer('2099-01-01', 900), noShots);
    const m = variantKey({ color: 'coal', size: 'm' });
    expect((await tee(one.workspaceId)).list).toMatchObject({ validFrom: '2026-11-01', baseCostMinor: { [m]: 790 } });
    const { blank, list } = await tee(one.workspaceId);
    await world.ctx.db.run(
      "INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from) VALUES ('x-own', ?, ?, 'GBP', '2026-01-01')",
      [blank.partner.id, one.workspaceId],
    );
    await world.ctx.db.run(
      "INSERT INTO price_list_variant (price_list_id, blank_id, variant_key, base_cost_minor) SELECT 'x-own', blank_id, variant_key, 600 FROM price_list_variant WHERE price_list_id = ? AND blank_id = ?",
      [list.id, blank.id],
    );
    expect((await tee(one.workspaceId)).list.baseCostMinor[m]).toBe(600);
    expect((await tee(two.workspaceId)).list.baseCostMinor[m]).toBe(790);
  });

  it('refuses a geometry that cannot be printed, before anything is written', async () => {
    const [first, ...rest] = millrace.blanks;
    const [name, geometry] = Object.entries(first!.geometries)[0]!;
    const flat = {
      ...millrace,
      blanks: [{ ...first!, geometries: { ...first!.geometries, [name]: { ...geometry, widthMm: 0 } } }, ...rest],
    };
    await expect(importCatalog(world.ctx, flat, noShots)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'geometry-invalid'),
    );
  });
});
