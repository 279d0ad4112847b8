import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dropDeletedProducts, deleteProduct, archiveProduct, restoreProduct } from '@/server/products/shelving';
import { copyProduct, previewOnBlank } from '@/server/products/copies';
import { patchProduct } from '@/server/products/patch';
import { productPage } from '@/server/products/product-page';
import { createProduct, findProduct } from '@/server/products/products';
import type { Actor } from '@/server/people/people';
import { findBlank, makeActor, makeTee, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
let blankId: string;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  blankId = (await findBlank(world.ctx, 'millrace', 'towpath-tee')).id;
});
afterAll(() => world.close());

const titles = async (shelf: 'range' | 'archived' | 'deleted') =>
  (await productPage(world.ctx, actor.workspaceId, { shelf })).products.map(({ title }) => title);

describe('a product', () => {
  it('is archived, deleted and brought back', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Ebb' });
    await archiveProduct(ctx, actor, id);
    expect([await titles('range'), await titles('archived'), await titles('deleted')]).toEqual([[], ['Ebb'], []]);
    await expect(findProduct(ctx, actor.workspaceId, id)).rejects.toMatchObject({ code: 'not-found' });
    await deleteProduct(ctx, actor, id);
    expect([await titles('archived'), await titles('deleted')]).toEqual([[], ['Ebb']]);
    await restoreProduct(ctx, actor, id);
    expect([await titles('range'), await titles('deleted')]).toEqual([['Ebb'], []]);
    await deleteProduct(ctx, actor, id);
  });

  it('is gone for good after 30 days, with what belongs to it, and not a day before', async () => {
    const { ctx } = world;
    const { product: tee } = await makeTee(ctx, actor);
    await deleteProduct(ctx, actor, tee.id);
    const age = (days: number) =>
      ctx.db.run('UPDATE product SET deleted_at = UTC_TIMESTAMP(3) - INTERVAL ? DAY WHERE id = ?', [days, tee.id]);
    await age(29);
    expect(await dropDeletedProducts(ctx)).toBe(0);
    await age(31);
    expect(await dropDeletedProducts(ctx)).toBe(1);
    expect(await ctx.db.row('SELECT id FROM product WHERE id = ?', [tee.id])).toBeNull();
    expect(await ctx.db.row('SELECT product_id FROM product_artwork WHERE product_id = ?', [tee.id])).toBeNull();
  });

  it('that a shop has is not deleted, and who says so names the shop', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Listed' });
    await ctx.db.run(
      `INSERT INTO store (id, workspace_id, channel, name, shop_id, shop_url, currency, state, settings)
       VALUES ('s1', ?, 'pennyquay', 'Harbour Goods', 'h', 'http://127.0.0.1/', 'USD', 'connected', '{}')`,
      [actor.workspaceId],
    );
    await ctx.db.run(
      "INSERT INTO listing (id, workspace_id, product_id, store_id, external_id) VALUES ('l1', ?, ?, 's1', 'it-1')",
      [actor.workspaceId, id],
    );
    await expect(deleteProduct(ctx, actor, id)).rejects.toMatchObject({
      code: 'product-listed',
      message: expect.stringContaining('Harbour Goods') as string,
    });
    expect(await titles('range')).toContain('Listed');
    await archiveProduct(ctx, actor, id);
    expect(await titles('archived')).toEqual(['Listed']);
  });

  it('of somebody else is not found', async () => {
    const { ctx } = world;
    const stranger = await makeActor(ctx);
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Mine' });
    for (const act of [archiveProduct, restoreProduct, deleteProduct])
      await expect(act(ctx, stranger, id)).rejects.toMatchObject({ code: 'not-found' });
    await expect(copyProduct(ctx, stranger, id, {})).rejects.toMatchObject({ code: 'not-found' });
    expect(await titles('range')).toContain('Mine');
  });
});

describe('a copy', () => {
  it('is the same again without the codes of the first', async () => {
    const { ctx } = world;
    const { product: tee } = await makeTee(ctx, actor);
    const [variant] = Object.keys(tee.document.variants);
    await patchProduct(ctx, actor, tee.id, tee.revision, [
      { op: 'add', path: `/variants/${variant}/sku`, value: 'EBB-1' },
    ]);
    const { product } = await copyProduct(ctx, actor, tee.id, {});
    expect(product.title).toBe(`${tee.title} (copy)`);
    expect(product.document.areas).toEqual(tee.document.areas);
    expect(product.document.variants[variant!]).toEqual({});
    const used = await ctx.db.row('SELECT artwork_id FROM product_artwork WHERE product_id = ?', [product.id]);
    expect(used).not.toBeNull();
  });

  it('on another blank can be saved and edited there, and says what did not fit', async () => {
    const { ctx } = world;
    const { product: tee } = await makeTee(ctx, actor);
    const mug = await findBlank(ctx, 'oststern', 'galley-mug');
    const told = await previewOnBlank(ctx, actor, tee.id, mug.id);
    const { product, notes } = await copyProduct(ctx, actor, tee.id, { blankId: mug.id });
    expect(notes).toEqual(told.notes);
    expect(product.blankId).toBe(mug.id);
    expect(product.title).toBe(`${tee.title}, ${mug.name}`);
    // What was made is a product like any other: a patch of it is checked as a whole.
    const next = await patchProduct(ctx, actor, product.id, 1, [
      { op: 'replace', path: '/words/base/title', value: 'On a mug' },
    ]);
    expect(next.revision).toBe(2);
  });
});

describe('the products of a store', () => {
  it('are those that were sent there, page by page in the order of their titles', async () => {
    const { ctx } = world;
    const seller = await makeActor(ctx);
    await ctx.db.run(
      `INSERT INTO store (id, workspace_id, channel, name, shop_id, shop_url, currency, state, settings)
       VALUES ('s2', ?, 'pennyquay', 'Quay', 'q', 'http://127.0.0.1/', 'USD', 'connected', '{}')`,
      [seller.workspaceId],
    );
    for (const title of ['C', 'A', 'B', 'not there']) {
      const { id } = await createProduct(ctx, seller, { blankId, title });
      if (title.length === 1)
        await ctx.db.run("INSERT INTO listing (id, workspace_id, product_id, store_id) VALUES (?, ?, ?, 's2')", [
          `l-${title}`,
          seller.workspaceId,
          id,
        ]);
    }
    const page = (after: string | null) =>
      productPage(ctx, seller.workspaceId, { storeId: 's2', sort: 'title', limit: 2, after });
    const first = await page(null);
    expect([first.total, first.products.map(({ title }) => title)]).toEqual([3, ['A', 'B']]);
    const second = await page(first.next);
    expect([second.products.map(({ title }) => title), second.next]).toEqual([['C'], null]);
    // Another workspace's store shows nothing.
    expect((await productPage(ctx, actor.workspaceId, { storeId: 's2' })).total).toBe(0);
  });
});
