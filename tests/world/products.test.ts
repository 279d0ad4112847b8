import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { artworkIdsOf } from '@/core/document/document';
import { isTypicaError, TypicaError } from '@/core/errors';
import { applyPatch } from '@/core/document/patch';
import type { Actor } from '@/server/people/people';
import { findArtwork } from '@/server/artwork/artwork';
import { createProduct, findProduct, listProducts, patchProduct } from '@/server/products/products';
import { listRevisions, thinRevisions } from '@/server/products/revisions';
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
    for (let i = 1; i <= 6; i += 1) await patchProduct(ctx, actor, id, i, title(`T${i}`), `Title ${i}`);
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
    expect(await listProducts(ctx, stranger.workspaceId)).toEqual([]);
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

describe('search rows', () => {
  it('follow the document: variants, SKUs, base prices, artwork', async () => {
    const { ctx } = world;
    const { product } = await makeTee(ctx, actor);
    const rows = await ctx.db.rows<{ variant_key: string; sku: string; price_minor: number; currency: string }>(
      'SELECT variant_key, sku, price_minor, currency FROM product_variant WHERE product_id = ? ORDER BY variant_key',
      [product.id],
    );
    expect(rows).toHaveLength(14);
    // 7.40 GBP at a margin of 40 %: 7.40 ÷ 0.6 is 12.33…, so 12.34 is the lowest that reaches it
    expect(rows.find((row) => row.variant_key === 'color=estuary;size=m')).toMatchObject({
      price_minor: 1234,
      currency: 'GBP',
    });
    expect(new Set(rows.map((row) => row.sku)).size).toBe(14);
    await patchProduct(ctx, actor, product.id, product.revision, [
      { op: 'replace', path: '/variants', value: {} },
      { op: 'replace', path: '/areas', value: {} },
    ]);
    expect(
      await ctx.db.rows(
        'SELECT 1 FROM product_variant WHERE product_id = ? UNION ALL SELECT 1 FROM product_artwork WHERE product_id = ?',
        [product.id, product.id],
      ),
    ).toEqual([]);
  });
});
