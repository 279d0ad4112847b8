import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { artworkIdsOf } from '@/core/document/document';
import { isTypicaError, TypicaError } from '@/core/errors';
import { applyPatch } from '@/core/document/patch';
import type { Actor } from '@/server/people/people';
import { findArtwork } from '@/server/artwork/artwork';
import { patchProduct } from '@/server/products/patch';
import { productPage } from '@/server/products/product-page';
import { createProduct, findProduct } from '@/server/products/products';
import { listRevisions, thinRevisions } from '@/server/products/revisions';
import { catchUpVariants } from '@/server/products/variant-rows';
import { findBlank, layerOf, makeActor, makeTee, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
let blankId: string;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  blankId = (await findBlank(world.ctx, 'millrace', 'towpath-tee')).id;
});
afterAll(() => world.close());

const title = (value: string) => [{ op: 'replace' as const, path: '/words/base/title', value }];
const story = (value: string) => [{ op: 'replace' as const, path: '/words/base/description', value }];
const thrown = (work: Promise<unknown>) =>
  work.then(
    () => {
      throw new Error('nothing was thrown');
    },
    (error: unknown) => error as TypicaError,
  );

describe('patches', () => {
  it('go on top of what others changed elsewhere', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId });
    await patchProduct(ctx, actor, id, 1, title('Ebb'));
    const result = await patchProduct(ctx, actor, id, 1, story('Flood'));
    expect(result).toMatchObject({
      revision: 3,
      document: { words: { base: { title: 'Ebb', description: 'Flood' } } },
    });
  });

  it('are refused with both values where they meet, and write nothing', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Tide' });
    await patchProduct(ctx, actor, id, 1, title('Ebb'));
    const error = await thrown(patchProduct(ctx, actor, id, 1, title('Flood')));
    expect(error).toMatchObject({
      code: 'revision-conflict',
      fields: { revision: 2, conflicts: [{ path: '/words/base/title', base: 'Tide', theirs: 'Ebb', yours: 'Flood' }] },
    });
    expect((await findProduct(ctx, actor.workspaceId, id)).revision).toBe(2);
  });

  it('take nothing along that had no part in a collision, and what both did is done already', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Tide' });
    const tag = (key: string) => ({
      op: 'add' as const,
      path: `/words/base/tags/${key}`,
      value: { text: key, order: 'a0' },
    });
    await patchProduct(ctx, actor, id, 1, [tag('t1'), tag('t2')]);
    await patchProduct(ctx, actor, id, 2, [{ op: 'remove', path: '/words/base/tags/t1' }]);
    // Removed there already; the rest is kept.
    const done = await patchProduct(ctx, actor, id, 2, [
      { op: 'remove', path: '/words/base/tags/t1' },
      ...story('kept'),
    ]);
    expect(done.document.words.base).toMatchObject({ description: 'kept', tags: { t2: { text: 't2' } } });
    // Changed here what was removed there: that place alone is told.
    const error = await thrown(
      patchProduct(ctx, actor, id, 2, [
        { op: 'replace', path: '/words/base/tags/t1/text', value: 'other' },
        ...title('Ebb'),
      ]),
    );
    expect(error).toMatchObject({ code: 'revision-conflict', kind: 'conflict' });
    expect((error.fields.conflicts as { path: string }[]).map(({ path }) => path)).toEqual(['/words/base/tags/t1']);
  });

  it('sent again under the same key are applied once, whatever came after them', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Tide' });
    const first = await patchProduct(ctx, actor, id, 1, title('Ebb'), { key: 'patch-0001' });
    await patchProduct(ctx, actor, id, first.revision, title('Flood'));
    const again = await patchProduct(ctx, actor, id, 1, title('Ebb'), { key: 'patch-0001' });
    expect(again).toMatchObject({ revision: 3, document: { words: { base: { title: 'Flood' } } } });
    const both = Array.from({ length: 4 }, () => patchProduct(ctx, actor, id, 3, story('once'), { key: 'patch-0002' }));
    expect((await Promise.all(both)).map(({ revision }) => revision)).toEqual([4, 4, 4, 4]);
  });

  it('under a key that went with another patch are refused, and change nothing', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Tide' });
    const send = (operations: ReturnType<typeof title>) =>
      patchProduct(ctx, actor, id, 1, operations, { key: 'patch-0004' });
    await send([...title('Ebb'), ...story('s')]);
    const error = await thrown(send([...title('Ebb'), ...story('another')]));
    expect(error).toMatchObject({ kind: 'invalid', code: 'key-used' });
    // Another order of the same keys is the same patch; half of it is not.
    const spelled = [...title('Ebb'), ...story('s')].map(
      (one) => Object.fromEntries(Object.entries(one).toReversed()) as typeof one,
    );
    expect((await send(spelled)).revision).toBe(2);
    expect(await thrown(send(title('Ebb')))).toMatchObject({ code: 'key-used' });
    expect((await findProduct(ctx, actor.workspaceId, id)).revision).toBe(2);
  });

  it('that test what others changed are told so, and one that a stranger’s key names is not passed over', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId, title: 'Tide' });
    await patchProduct(ctx, actor, id, 1, title('Ebb'), { key: 'patch-0003' });
    const error = await thrown(
      patchProduct(ctx, actor, id, 1, [{ op: 'test', path: '/words/base/title', value: 'Tide' }, ...story('x')]),
    );
    expect(error.code).toBe('revision-conflict');
    const other = await createProduct(ctx, actor, { blankId });
    expect((await patchProduct(ctx, actor, other.id, 1, title('Own'), { key: 'patch-0003' })).revision).toBe(2);
  });

  it('of lists by position are refused', async () => {
    const { ctx } = world;
    const { id, document } = await createProduct(ctx, actor, { blankId });
    expect(JSON.stringify(document)).not.toContain('[');
    const error = await thrown(
      patchProduct(ctx, actor, id, 1, [
        { op: 'add', path: '/areas/main.front', value: { layers: {}, threads: { pinned: ['t01'], swaps: {} } } },
        { op: 'remove', path: '/areas/main.front/threads/pinned/0' },
      ]),
    );
    expect(error).toMatchObject({ code: 'patch-failed', message: expect.stringContaining('position in a list') });
  });

  it('made at once are all kept: twenty writers, twenty revisions', async () => {
    const { ctx } = world;
    const { id } = await createProduct(ctx, actor, { blankId });
    await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        patchProduct(ctx, actor, id, 1, [
          { op: 'add', path: `/words/base/tags/t${i}`, value: { text: `tag ${i}`, order: `a${i}` } },
        ]),
      ),
    );
    const product = await findProduct(ctx, actor.workspaceId, id);
    expect(Object.keys(product.document.words.base.tags)).toHaveLength(20);
    expect(product.revision).toBe(21);
  });

  it.each([
    ['a variant that the blank does not have', [{ op: 'add', path: '/variants/color=none;size=m', value: {} }]],
    ['an area that the blank does not have', [{ op: 'add', path: '/areas/main.hood', value: { layers: {} } }]],
    [
      'an artwork of nobody',
      [{ op: 'add', path: '/areas/main.front', value: { layers: { l: layerOf('a-none', 'g0') } } }],
    ],
    ['another blank', [{ op: 'replace', path: '/blankId', value: 'b-other' }]],
    ['a store of nobody', [{ op: 'add', path: '/price/stores/s-none', value: {} }]],
    ['a margin of 100 %', [{ op: 'replace', path: '/price/base/aim', value: { kind: 'margin', ppm: 1_000_000 } }]],
  ] as const)('cannot bring in %s', async (_name, patch) => {
    const { id } = await createProduct(world.ctx, actor, { blankId });
    const error = await thrown(patchProduct(world.ctx, actor, id, 1, patch as never));
    expect(error.code).toBe('document-invalid');
    expect(error.message).toMatch(/\.$/);
  });

  it('for a revision that does not exist are told so', async () => {
    const { id } = await createProduct(world.ctx, actor, { blankId });
    expect((await thrown(patchProduct(world.ctx, actor, id, 9, title('x')))).code).toBe('revision-unknown');
  });
});

describe('history', () => {
  it('is kept, and stays whole when it is thinned out', async () => {
    const { ctx } = world;
    const { id, document } = await createProduct(ctx, actor, { blankId, title: 'T0' });
    for (let i = 1; i <= 6; i += 1) await patchProduct(ctx, actor, id, i, title(`T${i}`), { label: `Title ${i}` });
    await ctx.db.run(
      'UPDATE product_revision SET created_at = UTC_TIMESTAMP(3) - INTERVAL 3 DAY WHERE product_id = ? AND revision <= 5',
      [id],
    );
    expect(await thinRevisions(ctx)).toBe(1);
    const rows = await listRevisions(ctx, id);
    expect(rows.map((row) => [row.firstRevision, row.revision])).toEqual([
      [7, 7],
      [6, 6],
      [2, 5],
    ]);
    const replayed = rows.toReversed().reduce((d, row) => applyPatch(d, row.patch), document);
    expect(replayed.words.base.title).toBe('T6');
    const back = rows.reduce((d, row) => applyPatch(d, row.undo), replayed);
    expect(back).toEqual(document);
    // A patch against a revision inside the merged span cannot be judged: it is told to load again.
    expect((await thrown(patchProduct(ctx, actor, id, 3, story('x')))).code).toBe('revision-too-old');
    expect((await patchProduct(ctx, actor, id, 5, story('x'))).revision).toBe(8);
  });
});

describe('workspaces', () => {
  it('see nothing of each other', async () => {
    const { ctx } = world;
    const stranger = await makeActor(ctx);
    const { product } = await makeTee(ctx, actor);
    const [artworkId] = artworkIdsOf(product.document.areas) as [string];
    expect(await productPage(ctx, stranger.workspaceId)).toEqual({ total: 0, products: [], next: null });
    for (const attempt of [
      () => findProduct(ctx, stranger.workspaceId, product.id),
      () => patchProduct(ctx, stranger, product.id, 1, title('mine')),
      () => findArtwork(ctx, stranger.workspaceId, artworkId),
    ]) {
      await expect(attempt()).rejects.toSatisfy((e) => isTypicaError(e, 'not-found'));
    }
    const own = await createProduct(ctx, stranger, { blankId });
    const geometryId = Object.values(product.document.areas['main.front']!.layers)[0]!.geometryId;
    expect(
      (
        await thrown(
          patchProduct(ctx, stranger, own.id, 1, [
            { op: 'add', path: '/areas/main.front', value: { layers: { l: layerOf(artworkId, geometryId) } } },
          ]),
        )
      ).code,
    ).toBe('document-invalid');
  });
});

describe('rows of variants', () => {
  const rowsOf = (id: string) =>
    world.ctx.db.rows<{ variant_key: string; sku: string }>(
      'SELECT variant_key, sku FROM product_variant WHERE product_id = ? ORDER BY variant_key',
      [id],
    );

  it('follow the document, and artwork too', async () => {
    const { ctx } = world;
    const { product } = await makeTee(ctx, actor);
    const rows = await rowsOf(product.id);
    expect(rows).toHaveLength(14);
    expect(new Set(rows.map((row) => row.sku)).size).toBe(14);
    await patchProduct(ctx, actor, product.id, product.revision, [
      { op: 'replace', path: '/variants', value: { 'color=coal;size=m': { sku: 'ONE' } } },
      { op: 'replace', path: '/areas', value: {} },
    ]);
    expect(await rowsOf(product.id)).toEqual([{ variant_key: 'color=coal;size=m', sku: 'ONE' }]);
    expect(await ctx.db.rows('SELECT 1 FROM product_artwork WHERE product_id = ?', [product.id])).toEqual([]);
  });

  it('are written by what is different, and not at all when nothing is', async () => {
    const { ctx } = world;
    const { product } = await makeTee(ctx, actor);
    // Counted by the table itself: a row that is written over with the same is written too.
    await ctx.db.run('CREATE TABLE written (n INT AUTO_INCREMENT PRIMARY KEY)');
    for (const what of ['INSERT', 'DELETE'])
      await ctx.db.run(
        `CREATE TRIGGER written_${what} BEFORE ${what} ON product_variant FOR EACH ROW INSERT INTO written () VALUES ()`,
      );
    const written = async () => (await ctx.db.rows('SELECT n FROM written')).length;
    const { revision } = await patchProduct(ctx, actor, product.id, product.revision, story('x'));
    expect(await written()).toBe(0);
    const [key] = Object.keys(product.document.variants);
    await patchProduct(ctx, actor, product.id, revision, [{ op: 'add', path: `/variants/${key}/sku`, value: 'ONE' }]);
    expect(await written()).toBe(1);
    expect(await rowsOf(product.id)).toHaveLength(14);
  });

  it('find products by how a SKU begins, in one workspace, and take nothing for a pattern', async () => {
    const { ctx } = world;
    const other = await makeActor(ctx);
    for (const who of [actor, other]) {
      const { id } = await createProduct(ctx, who, {
        blankId,
        variants: [{ key: 'color=coal;size=m', sku: 'HULL-7_M' }],
      });
      const { total, products } = await productPage(ctx, who.workspaceId, { words: 'hull-7' });
      expect([total, products.map((one) => one.id)]).toEqual([1, [id]]);
    }
    for (const words of ['HULL-7%', 'HULL_7', 'ULL-7', '%'])
      expect((await productPage(ctx, actor.workspaceId, { words })).products).toEqual([]);
  });

  it('come page by page in any order, each once, and every word has to be there', async () => {
    const { ctx } = world;
    const seller = await makeActor(ctx);
    // Two of the same title and, in the database, of the same second: the id decides.
    const titles = ['Tide 10', 'tide 2', 'Éclair', 'Tide 10', 'Oar', 'Tide & oar', 'Zebra'];
    for (const title of titles) await createProduct(ctx, seller, { blankId, title });
    await ctx.db.run("UPDATE product SET created_at = '2026-01-01' WHERE workspace_id = ?", [seller.workspaceId]);
    for (const sort of ['changed', 'made', 'title'] as const) {
      const seen: string[] = [];
      let after: string | null = null;
      do {
        const page: Awaited<ReturnType<typeof productPage>> = await productPage(ctx, seller.workspaceId, {
          sort,
          after,
          limit: 3,
        });
        expect(page.total).toBe(7);
        seen.push(...page.products.map((one) => one.id));
        after = page.next;
      } while (after !== null);
      expect(new Set(seen).size).toBe(7);
      expect(seen.length).toBe(7);
    }
    const byTitle = await productPage(ctx, seller.workspaceId, { sort: 'title' });
    expect(byTitle.products.map((one) => one.title)).toEqual([
      'Éclair',
      'Oar',
      'Tide & oar',
      'Tide 10',
      'Tide 10',
      'tide 2',
      'Zebra',
    ]);
    const found = async (words: string) => (await productPage(ctx, seller.workspaceId, { words })).total;
    expect([await found('tide'), await found('oar tide'), await found('tide nothing')]).toEqual([4, 1, 0]);
    for (const wrong of ['', 'x', 'W10', Buffer.from('["no date","p1"]').toString('base64url')])
      await expect(productPage(ctx, seller.workspaceId, { after: wrong })).rejects.toMatchObject({
        code: 'page-wrong',
      });
  });

  it('are made up for when a save was cut off before them', async () => {
    const { ctx } = world;
    const { product } = await makeTee(ctx, actor);
    await ctx.db.run('DELETE FROM product_variant WHERE product_id = ?', [product.id]);
    await ctx.db.run(
      'UPDATE product SET variants_revision = 0, updated_at = UTC_TIMESTAMP(3) - INTERVAL 1 HOUR WHERE id = ?',
      [product.id],
    );
    await catchUpVariants(ctx);
    expect(await rowsOf(product.id)).toHaveLength(14);
  });
});
