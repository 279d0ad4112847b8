import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Blank } from '@/core/catalog/blank';
import type { Layer } from '@/core/document/document';
import { findArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { deriveArtwork } from '@/server/artwork/derive';
import { askToLookAgain } from '@/server/artwork/ingest.job';
import {
  browseArtwork,
  changeArtwork,
  deleteArtwork,
  dropDeletedArtwork,
  restoreArtwork,
  usesOfArtwork,
} from '@/server/artwork/library';
import { askToReplace, previewReplacement, replaceEverywhere } from '@/server/artwork/replace';
import { readBlob } from '@/server/blobs/blobs';
import {
  acceptancesOf,
  acceptFinding,
  findingsOf,
  withAcceptances,
  withdrawAcceptance,
} from '@/server/findings/findings';
import { enqueue } from '@/server/jobs/jobs';
import { requestSend } from '@/server/listings/request-send';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { askToUndoJob } from '@/server/products/undo-job';
import { createProduct, findProduct } from '@/server/products/products';
import { residentMb } from '@/server/processes/limits';
import {
  connectStore,
  eventually,
  findBlank,
  jobOf,
  layerOf,
  makeActor,
  makeTee,
  makeWorld,
  runJobs,
  startWorker,
  streamOf,
  type World,
} from '../support/world';

let world: World;
let actor: Actor;
let tee: Blank;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx, 'USD');
  tee = await findBlank(world.ctx, 'millrace', 'towpath-tee');
});
afterAll(() => world.close());

const boxed = (side: number, color = '#7e2a33') =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="${side}" height="${side}"><rect width="100" height="100" fill="#fff"/><circle cx="50" cy="50" r="30" fill="none" stroke="${color}" stroke-width="10"/></svg>`,
    ),
  )
    .removeAlpha()
    .png()
    .toBuffer();

async function bring(bytes: Buffer, name: string): Promise<string> {
  const { id } = await uploadArtwork(world.ctx, actor, streamOf(bytes), name);
  await runJobs(world.ctx);
  return id;
}

async function teeWith(layers: Record<string, unknown>) {
  const { id } = await createProduct(world.ctx, actor, { blankId: tee.id, title: 'Ring tee' });
  const keys = tee.variants.filter((v) => v.values.color === 'estuary').map((v) => [v.key, {}] as const);
  await patchProduct(world.ctx, actor, id, 1, [
    { op: 'add', path: '/areas/main.front', value: { layers: layers as Record<string, Layer> } },
    { op: 'replace', path: '/variants', value: Object.fromEntries(keys) },
  ]);
  return id;
}
const geometryId = () => tee.areas[0]!.geometries[0]!.geometryId;
const bundleOf = (id: string) => loadBundle(world.ctx, actor.workspaceId, id);
const ids = async (id: string) => (await findingsOf(world.ctx, await bundleOf(id))).map((one) => one.id);

describe('a stop', () => {
  it('keeps a product from being sent until it is mended', async () => {
    const store = await connectStore(world, actor);
    const { product } = await makeTee(world.ctx, actor);
    const artworkId = await bring(await boxed(90), 'tiny.png');
    const patched = await patchProduct(world.ctx, actor, product.id, product.revision, [
      // 90 px on 190 mm are 12 DPI.
      { op: 'add', path: '/areas/main.front/layers/tiny', value: layerOf(artworkId, geometryId()) },
    ]);
    await expect(requestSend(world.ctx, await bundleOf(product.id), store, 'live')).rejects.toMatchObject({
      code: 'design-stopped',
      fields: { findings: [expect.objectContaining({ id: 'resolution:tiny' })] },
    });
    await patchProduct(world.ctx, actor, product.id, patched.revision, [
      { op: 'remove', path: '/areas/main.front/layers/tiny' },
    ]);
    await expect(requestSend(world.ctx, await bundleOf(product.id), store, 'live')).resolves.toHaveProperty('jobId');
    await runJobs(world.ctx);
  });
});

describe('text of an SVG in a font that is not here', () => {
  it('is set in one of ours, and stops until somebody accepts that', async () => {
    const store = await connectStore(world, actor);
    const { product } = await makeTee(world.ctx, actor, 'Quayside tee');
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 120"><text x="10" y="90" font-size="90" font-family="Quayside Grotesk" fill="#f3ead6">QUAY</text></svg>';
    const { id: artworkId } = await uploadArtwork(world.ctx, actor, streamOf(svg), 'quay.svg');
    await runJobs(world.ctx);
    const { facts, sourceSha256 } = await findArtwork(world.ctx, actor.workspaceId, artworkId);
    expect(facts).toMatchObject({ missingFonts: ['Quayside Grotesk'] });
    const source = await readBlob(world.ctx, sourceSha256!);
    expect(source.toString()).not.toContain('<text');
    await patchProduct(world.ctx, actor, product.id, product.revision, [
      {
        op: 'add',
        path: '/areas/main.front/layers/quay',
        value: { ...layerOf(artworkId, geometryId(), { yMm: 300, widthMm: 200 }), order: 'a1' },
      },
    ]);
    const send = async () => requestSend(world.ctx, await bundleOf(product.id), store, 'live');
    await expect(send()).rejects.toMatchObject({
      code: 'design-stopped',
      fields: { findings: [expect.objectContaining({ id: 'fonts-missing:quay' })] },
    });
    await acceptFinding(world.ctx, actor, await bundleOf(product.id), 'fonts-missing:quay');
    await expect(send()).resolves.toHaveProperty('jobId');
    await runJobs(world.ctx);
  });
});

describe('a warning', () => {
  it('can be accepted by name, holds while its words hold, and can be taken back', async () => {
    const clear = { r: 0, g: 0, b: 0, alpha: 0 };
    const edged = await sharp(await boxed(2400))
      .extend({ top: 400, bottom: 400, left: 400, right: 400, background: clear })
      .png()
      .toBuffer();
    const id = await teeWith({
      ring: layerOf(await bring(await boxed(3000), 'ring.png'), geometryId()),
      edged: { ...layerOf(await bring(edged, 'edged.png'), geometryId()), order: 'a1' },
    });
    expect(await ids(id)).toEqual(expect.arrayContaining(['box:ring', 'edge:edged']));
    const bundle = await bundleOf(id);
    await acceptFinding(world.ctx, actor, bundle, 'box:ring');
    const judged = async () => {
      const now = await bundleOf(id);
      const all = withAcceptances(
        await findingsOf(world.ctx, now),
        await acceptancesOf(world.ctx, actor.workspaceId, id),
      );
      return all.find((one) => one.id === 'box:ring')!;
    };
    expect((await judged()).accepted).toEqual({ by: actor.personName, at: expect.any(Date) });
    await expect(acceptFinding(world.ctx, actor, bundle, 'edge:edged')).rejects.toMatchObject({
      code: 'finding-not-warn',
    });
    await expect(acceptFinding(world.ctx, actor, bundle, 'box:none')).rejects.toMatchObject({ code: 'not-found' });
    // On another color it is another warning.
    const coal = tee.variants.find((v) => v.values.color === 'coal')!.key;
    const { revision } = await findProduct(world.ctx, actor.workspaceId, id);
    await patchProduct(world.ctx, actor, id, revision, [{ op: 'add', path: `/variants/${coal}`, value: {} }]);
    expect((await judged()).accepted).toBeNull();
    await acceptFinding(world.ctx, actor, await bundleOf(id), 'box:ring');
    await withdrawAcceptance(world.ctx, actor, id, 'box:ring');
    expect((await judged()).accepted).toBeNull();
    const stranger = await makeActor(world.ctx);
    expect(await acceptancesOf(world.ctx, stranger.workspaceId, id)).toEqual([]);
  });
});

describe('an artwork that is made out of another', () => {
  it('has no background and no box any more, and is made once', async () => {
    const from = await bring(await boxed(900), 'logo.png');
    const made = await deriveArtwork(world.ctx, actor, from, { kind: 'background' });
    await runJobs(world.ctx);
    const row = await findArtwork(world.ctx, actor.workspaceId, made.id);
    expect(row).toMatchObject({ state: 'ready', derivedFrom: from, name: 'logo, no background' });
    expect(row.facts).toMatchObject({ hasAlpha: true, flatBox: null, widthPx: 900 });
    const { data, info } = await sharp(await readBlob(world.ctx, row.sourceSha256!))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const alpha = (x: number, y: number) => data[(y * info.width + x) * info.channels + 3];
    // Outside clear, the ring and the white inside it kept.
    expect([alpha(5, 5), alpha(450, 180), alpha(450, 450)]).toEqual([0, 255, 255]);
    expect((await deriveArtwork(world.ctx, actor, from, { kind: 'background' })).id).toBe(made.id);
    const trimmed = await deriveArtwork(world.ctx, actor, made.id, { kind: 'trim' });
    const larger = await deriveArtwork(world.ctx, actor, from, { kind: 'enlarge', widthPx: 1800 });
    await runJobs(world.ctx);
    // A ring of 35 ± 5 around the middle: 70 of 100.
    const { facts } = await findArtwork(world.ctx, actor.workspaceId, trimmed.id);
    expect(Math.abs(facts!.widthPx - 630)).toBeLessThanOrEqual(2);
    expect((await findArtwork(world.ctx, actor.workspaceId, larger.id)).facts).toMatchObject({
      widthPx: 1800,
      heightPx: 1800,
      enlargedFromPx: 900,
    });
  });

  it('stays a vector where its box is a shape, and becomes a picture where it is none', async () => {
    const svg = (ground: string) =>
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="400" height="400">${ground}<circle cx="50" cy="50" r="30" fill="#7e2a33"/><rect x="45" y="45" width="10" height="10" fill="#fff"/></svg>`,
      );
    const without = async (ground: string, name: string) => {
      const from = await bring(svg(ground), name);
      expect((await findArtwork(world.ctx, actor.workspaceId, from)).facts).toMatchObject({ flatBox: '#ffffff' });
      const made = await deriveArtwork(world.ctx, actor, from, { kind: 'background' });
      await runJobs(world.ctx);
      return findArtwork(world.ctx, actor.workspaceId, made.id);
    };
    const shape = await without('<rect width="100" height="100" fill="#fff"/>', 'boxed.svg');
    expect(shape.facts).toMatchObject({ vector: true, flatBox: null });
    // The white inside it stays.
    expect((await readBlob(world.ctx, shape.sourceSha256!)).toString()).toContain('width="10"');
    const halves = '<rect width="100" height="60" fill="#fff"/><rect y="50" width="100" height="50" fill="#fff"/>';
    expect((await without(halves, 'halves.svg')).facts).toMatchObject({ vector: false, flatBox: null, widthPx: 6000 });
  });

  it('is refused in a sentence where there is nothing to do, and of a vector', async () => {
    const plain = await bring(
      await sharp(await boxed(300))
        .extract({ left: 120, top: 60, width: 60, height: 60 })
        .png()
        .toBuffer(),
      'cut.png',
    );
    const made = await deriveArtwork(world.ctx, actor, plain, { kind: 'trim' });
    await runJobs(world.ctx);
    expect(await findArtwork(world.ctx, actor.workspaceId, made.id)).toMatchObject({
      state: 'refused',
      refusal: { code: 'nothing-to-trim', message: expect.stringMatching(/\.$/) },
    });
    const svg = await bring(
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><circle cx="4" cy="4" r="4"/></svg>'),
      'v.svg',
    );
    await expect(deriveArtwork(world.ctx, actor, svg, { kind: 'solid' })).rejects.toMatchObject({
      code: 'derive-vector',
    });
  });
});

describe('the same picture brought twice', () => {
  it('is known on both, and forgotten with either; not in another color, nor where one was made of the other, nor across workspaces', async () => {
    const twinsOf = async (id: string) =>
      (await findArtwork(world.ctx, actor.workspaceId, id)).twins.map(({ artworkId }) => artworkId);
    const first = await bring(await boxed(1200, '#205080'), 'harbor.png');
    const small = await bring(await boxed(400, '#205080'), 'harbor small.png');
    expect([await twinsOf(first), await twinsOf(small)]).toEqual([[small], [first]]);
    expect((await findArtwork(world.ctx, actor.workspaceId, small)).twins[0]).toEqual({
      artworkId: first,
      name: 'harbor',
      vector: false,
      widthPx: 1200,
      heightPx: 1200,
    });
    const other = await bring(await boxed(1200, '#d08050'), 'harbor red.png');
    expect(await twinsOf(other)).toEqual([]);
    const larger = await deriveArtwork(world.ctx, actor, first, { kind: 'enlarge', widthPx: 1500 });
    await runJobs(world.ctx);
    expect(await twinsOf(larger.id)).toEqual([small]);
    const stranger = await makeActor(world.ctx);
    const { id } = await uploadArtwork(world.ctx, stranger, streamOf(await boxed(1200, '#205080')), 'theirs.png');
    await runJobs(world.ctx);
    expect((await findArtwork(world.ctx, stranger.workspaceId, id)).twins).toEqual([]);
    const productId = await teeWith({ ring: layerOf(small, geometryId()) });
    const findings = await findingsOf(world.ctx, await bundleOf(productId));
    expect(findings.find((one) => one.id === 'twin:ring')!.says).toMatch(/ px instead of 400 × 400 px\.$/);
    await deleteArtwork(world.ctx, actor, first);
    expect(await twinsOf(small)).toEqual([larger.id]);
  });
});

describe('the artwork of a workspace', () => {
  it('is found by words and tags, and tells where it is used', async () => {
    const id = await bring(await boxed(700, '#225522'), 'Green_100% ring.png');
    await changeArtwork(world.ctx, actor, id, { name: 'Green 100% ring', tags: ['rings', ' rings ', 'Grün'] });
    const find = (words: string, tag: string | null = null) =>
      browseArtwork(world.ctx, actor.workspaceId, { words, tag, offset: 0, limit: 50 });
    expect((await find('100% green')).artwork.map((one) => one.id)).toEqual([id]);
    // A percent sign is a character, not a wildcard.
    expect((await find('1%0')).total).toBe(0);
    expect((await find('', 'Grün')).artwork.map((one) => one.tags)).toEqual([['rings', 'Grün']]);
    expect((await find('')).tags).toContainEqual({ tag: 'rings', count: 1 });
    const productId = await teeWith({ ring: layerOf(id, geometryId()) });
    expect((await find('green')).artwork[0]!.products).toBe(1);
    const [use] = await usesOfArtwork(world.ctx, actor.workspaceId, id);
    expect(use).toMatchObject({ productId, blank: 'Towpath Tee', areas: ['Front'] });
    expect(use!.findings.map((finding) => finding.id)).toContain('box:ring');
    await expect(deleteArtwork(world.ctx, actor, id)).rejects.toMatchObject({
      code: 'artwork-used',
      fields: { products: [{ id: productId, title: 'Ring tee' }] },
    });
    const stranger = await makeActor(world.ctx);
    await expect(deleteArtwork(world.ctx, stranger, id)).rejects.toMatchObject({ code: 'not-found' });
    const unused = await bring(await boxed(64), 'unused.png');
    await deleteArtwork(world.ctx, actor, unused);
    await expect(findArtwork(world.ctx, actor.workspaceId, unused)).rejects.toMatchObject({ code: 'not-found' });
    const there = async () => (await find('unused')).artwork.map((one) => one.id);
    expect(await there()).toEqual([]);
    await expect(restoreArtwork(world.ctx, stranger, unused)).rejects.toMatchObject({ code: 'not-found' });
    expect(await there()).toEqual([]);
    expect(await restoreArtwork(world.ctx, actor, unused)).toMatchObject({ id: unused, state: 'ready' });
    expect(await there()).toEqual([unused]);
  });

  it('is gone for good 30 days after it was deleted, and not a day before', async () => {
    const id = await bring(await boxed(66), 'old.png');
    await deleteArtwork(world.ctx, actor, id);
    const age = (days: number) =>
      world.ctx.db.run('UPDATE artwork SET deleted_at = UTC_TIMESTAMP(3) - INTERVAL ? DAY WHERE id = ?', [days, id]);
    await age(29);
    await dropDeletedArtwork(world.ctx);
    expect(await world.ctx.db.row('SELECT id FROM artwork WHERE id = ?', [id])).not.toBeNull();
    await age(31);
    expect(await dropDeletedArtwork(world.ctx)).toBe(1);
    await expect(restoreArtwork(world.ctx, actor, id)).rejects.toMatchObject({ code: 'not-found' });
  });

  it('that was replaced everywhere is put back by one step, but where somebody changed the same since', async () => {
    const [old, by] = [
      await bring(await boxed(900, '#993311'), 'old.png'),
      await bring(await boxed(880, '#119933'), 'by.png'),
    ];
    const [left, touched] = [
      await teeWith({ ring: layerOf(old, geometryId()) }),
      await teeWith({ ring: layerOf(old, geometryId()) }),
    ];
    const { jobId } = await askToReplace(world.ctx, actor, old, by);
    await expect(askToUndoJob(world.ctx, actor, jobId)).rejects.toMatchObject({ code: 'job-not-undoable' });
    await runJobs(world.ctx);
    const third = await bring(await boxed(870, '#111199'), 'third.png');
    const { revision } = await findProduct(world.ctx, actor.workspaceId, touched);
    await patchProduct(world.ctx, actor, touched, revision, [
      { op: 'replace', path: '/areas/main.front/layers/ring/artworkId', value: third },
    ]);
    const stranger = await makeActor(world.ctx);
    await expect(askToUndoJob(world.ctx, stranger, jobId)).rejects.toMatchObject({ code: 'not-found' });
    const undo = await askToUndoJob(world.ctx, actor, jobId);
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, undo.jobId)).toMatchObject({
      state: 'done',
      result: { products: 1, kept: 1 },
    });
    const artworkOn = async (id: string) => {
      const layer = (await findProduct(world.ctx, actor.workspaceId, id)).document.areas['main.front']!.layers.ring!;
      return layer.kind === 'artwork' ? layer.artworkId : null;
    };
    expect([await artworkOn(left), await artworkOn(touched)]).toEqual([old, third]);
  });

  it('is replaced everywhere after a preview, each product with a revision of its own', async () => {
    const large = await bring(await boxed(2600, '#335577'), 'large.png');
    const small = await bring(await boxed(420, '#335577'), 'small.png');
    const products = [
      await teeWith({ ring: layerOf(large, geometryId()) }),
      await teeWith({ ring: { ...layerOf(small, geometryId()), versions: { estuary: { artworkId: large } } } }),
    ];
    const before = await Promise.all(products.map((id) => findProduct(world.ctx, actor.workspaceId, id)));
    const { total, products: preview } = await previewReplacement(world.ctx, actor, large, small);
    expect(total).toBe(preview.length);
    const first = preview.find((one) => one.productId === products[0])!;
    expect(first.comes.map((finding) => finding.id)).toEqual(
      expect.arrayContaining(['replaced-smaller:ring', 'resolution:ring']),
    );
    for (const { id, revision } of before)
      expect(await findProduct(world.ctx, actor.workspaceId, id)).toMatchObject({ revision });
    const { jobId } = await askToReplace(world.ctx, actor, large, small);
    // Asked for twice, it is one job; and one that was cut off in the middle goes on where it stopped.
    expect((await askToReplace(world.ctx, actor, large, small)).jobId).toBe(jobId);
    let transactions = 0;
    const pools = Object.create(world.ctx.pools, {
      transaction: {
        value: (work: never) => {
          // The first product's patch, its variants' rows, and then the database is gone.
          transactions += 1;
          if (transactions > 2) throw new Error('gone');
          return world.ctx.pools.transaction(work);
        },
      },
    }) as typeof world.ctx.pools;
    await expect(replaceEverywhere({ ...world.ctx, pools }, actor, large, small, 'test')).rejects.toThrow('gone');
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', result: { products: 1 } });
    for (const id of products) {
      const { document, revision } = await findProduct(world.ctx, actor.workspaceId, id);
      expect(JSON.stringify(document.areas)).not.toContain(large);
      expect(revision).toBe(before.find((one) => one.id === id)!.revision + 1);
    }
    expect(await ids(products[0]!)).toContain('replaced-smaller:ring');
    await deleteArtwork(world.ctx, actor, large);
    await expect(replaceEverywhere(world.ctx, actor, small, small, 'test')).rejects.toMatchObject({
      code: 'replace-itself',
    });
  });
});

describe('an artwork from before the checks of today', () => {
  it('is looked at again, once, and then judged by them', async () => {
    const id = await bring(await boxed(500, '#551155'), 'old.png');
    await world.ctx.db.run(
      "UPDATE artwork SET facts = JSON_REMOVE(facts, '$.likeness', '$.flatBox', '$.words') WHERE id = ?",
      [id],
    );
    await askToLookAgain(world.ctx);
    await askToLookAgain(world.ctx);
    const count = () =>
      world.ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM job WHERE title = ?', ['Process old again']);
    expect(Number((await count())!.n)).toBe(1);
    await runJobs(world.ctx);
    expect((await findArtwork(world.ctx, actor.workspaceId, id)).facts).toMatchObject({
      flatBox: '#ffffff',
      likeness: expect.stringMatching(/^[0-9a-f]{16}$/),
    });
  });
});

describe('a source of 120 megapixels', () => {
  it('is taken, and printed in two files at once under 1.5 GB', async () => {
    const side = 10_950;
    const bytes = await sharp({
      create: { width: side, height: side, channels: 3, background: '#345' },
      limitInputPixels: false,
    })
      .composite([{ input: await boxed(2000), left: 400, top: 700 }])
      .jpeg({ quality: 80 })
      .toBuffer();
    const artworkId = await bring(bytes, 'huge.jpg');
    expect((await findArtwork(world.ctx, actor.workspaceId, artworkId)).facts!.widthPx).toBe(side);
    const poster = await findBlank(world.ctx, 'oststern', 'river-poster');
    const area = poster.areas[0]!;
    const jobs: string[] = [];
    for (const turn of [0, 3]) {
      const { id } = await createProduct(world.ctx, actor, { blankId: poster.id });
      const largest = area.geometries.at(-1)!.geometryId;
      const { widthMm, heightMm } = poster.geometries[largest]!;
      const placement = { xMm: widthMm / 2, yMm: heightMm / 2, widthMm: heightMm * 1.2, rotationDeg: turn };
      const variant = poster.variants.find((v) => v.values.size === '24x36')!.key;
      await patchProduct(world.ctx, actor, id, 1, [
        { op: 'add', path: `/areas/${area.key}`, value: { layers: { l: layerOf(artworkId, largest, placement) } } },
        { op: 'replace', path: '/variants', value: { [variant]: {} } },
      ]);
      jobs.push(
        await enqueue(world.ctx.db, {
          workspaceId: actor.workspaceId,
          kind: 'make-print-files',
          title: 'x',
          payload: { productId: id },
        }),
      );
    }
    const worker = startWorker(world.env);
    let most = 0;
    try {
      await eventually(
        async () => {
          // The worker with all that it started.
          most = Math.max(most, residentMb(worker.pid!));
          const states = await Promise.all(jobs.map((id) => jobOf(world.ctx, actor, id)));
          if (states.some((job) => job.state === 'failed')) throw new Error(JSON.stringify(states));
          return states.every((job) => job.state === 'done');
        },
        'both print files',
        150,
      );
    } finally {
      worker.kill('SIGTERM');
    }
    // Less would mean that what draws was not looked at.
    expect(most).toBeGreaterThan(400);
    process.stdout.write(`two posters from 120 megapixels: ${Math.round(most)} MB at most\n`);
    expect(most).toBeLessThan(1500);
  }, 240_000);
});
