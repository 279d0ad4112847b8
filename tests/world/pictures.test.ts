import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { OWN_FORMAT } from '@/core/listing/picture-format';
import { uploadArtwork } from '@/server/artwork/artwork';
import { readBlob } from '@/server/blobs/blobs';
import { loadShots } from '@/server/catalog/blanks';
import { importShot } from '@/server/catalog/import-shot';
import type { Actor } from '@/server/people/people';
import { deletePhotograph, listPhotographs } from '@/server/photographs/photographs';
import { pictureArchive } from '@/server/pictures/archive';
import { derivePicture, ensurePicture, pictureAs } from '@/server/pictures/pictures';
import { allPlans, findShownPicture, oncePerSlot, picturesOf, plansOf } from '@/server/pictures/product-pictures';
import { readPictureFormat } from '@/server/pictures/read-format';
import { pictureFormatFor } from '@/server/pictures/store-format';
import { demandsOf } from '@/server/stores/stores';
import { askForPictures } from '@/server/pictures/renew';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { findProduct } from '@/server/products/products';
import { deleteOwnShot, findOwnShot, saveOwnShot, type MarkedShot } from '@/server/shots/own-shots';
import { markedShotOf, ownShotView } from '@/server/http/marked-shot';
import {
  connectStore,
  findBlank,
  makeActor,
  makeTee,
  makeWorld,
  runJobs,
  streamOf,
  type World,
} from '../support/world';

let world: World;
let actor: Actor;
let other: Actor;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  other = await makeActor(world.ctx);
}, 240_000);
afterAll(() => world.close());

const bundleOf = (id: string) => loadBundle(world.ctx, actor.workspaceId, id);
const tell = async (id: string) => picturesOf(world.ctx, await bundleOf(id));
const looks = async (bytes: Buffer, x: number, y: number) => {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const i = (Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * 3;
  return [...data.subarray(i, i + 3)];
};

/** A photograph of 600×500: a red cloth on gray. */
const photograph = (width = 600, height = 500) =>
  sharp({ create: { width, height, channels: 3, background: '#9a9a9a' } })
    .composite([
      {
        input: Buffer.from(
          `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect x="20%" y="20%" width="60%" height="60%" fill="#b03a3a"/></svg>`,
        ),
      },
    ])
    .jpeg({ quality: 92 })
    .toBuffer();
async function bring(bytes: Buffer, name = 'cloth.jpg') {
  const { id } = await uploadArtwork(world.ctx, actor, streamOf(bytes), name, null, 'photograph');
  await runJobs(world.ctx);
  return id;
}

describe('pictures of a product', () => {
  it('are made in a job, the first ones first, and stay in view while a change of the design renews them', async () => {
    const { product } = await makeTee(world.ctx, actor);
    const before = await tell(product.id);
    expect(before.length).toBeGreaterThan(2);
    expect(new Set(before.map((picture) => picture.state))).toEqual(new Set(['none']));
    await askForPictures(world.ctx.db, await findProduct(world.ctx, actor.workspaceId, product.id));
    await runJobs(world.ctx);
    const made = await tell(product.id);
    expect(new Set(made.map((picture) => picture.state))).toEqual(new Set(['made']));
    const keyOf = (href: string | null) => href!.split('/').at(-1)!;
    const bytes = await readBlob(
      world.ctx,
      (await findShownPicture(world.ctx, actor.workspaceId, keyOf(made[0]!.href)))!,
    );
    expect((await sharp(bytes).metadata()).width).toBe(800);
    expect(await findShownPicture(world.ctx, other.workspaceId, keyOf(made[0]!.href))).toBeNull();

    const { document, revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
    const [layerId] = Object.keys(document.areas['main.front']!.layers);
    await patchProduct(world.ctx, actor, product.id, revision, [
      { op: 'replace', path: `/areas/main.front/layers/${layerId}/placement/xMm`, value: 90 },
    ]);
    const stale = await tell(product.id);
    expect(new Set(stale.map((picture) => picture.state))).toEqual(new Set(['old']));
    // The old ones are in view still.
    for (const [i, picture] of stale.entries()) {
      expect(picture.href).toBe(made[i]!.href);
      expect(await findShownPicture(world.ctx, actor.workspaceId, keyOf(picture.href))).not.toBeNull();
    }
    // The change itself asked for new ones.
    await runJobs(world.ctx);
    const renewed = await tell(product.id);
    expect(new Set(renewed.map((picture) => picture.state))).toEqual(new Set(['made']));
    expect(renewed[0]!.href).not.toBe(made[0]!.href);
  }, 120_000);

  it('are marked where one looks like another', async () => {
    const { product, blank } = await makeTee(world.ctx, actor, 'Twice the same');
    const [front] = await loadShots(world.ctx, [blank.id], actor.workspaceId);
    const twin = { ...front!, id: 'htwin', code: 'twin' };
    await world.ctx.db.run(
      'INSERT INTO shot (id, blank_id, code, position, document, content_hash) VALUES (?, ?, ?, 50, ?, ?)',
      [twin.id, blank.id, twin.code, JSON.stringify({ ...twin.document, code: 'twin' }), 'f'.repeat(64)],
    );
    await world.ctx.db.run('INSERT INTO shot_pass SELECT ?, file, sha256 FROM shot_pass WHERE shot_id = ?', [
      twin.id,
      front!.id,
    ]);
    const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
    await patchProduct(world.ctx, actor, product.id, revision, [
      {
        op: 'add',
        path: '/pictures/base',
        value: {
          a: { shotId: front!.id, color: 'estuary', order: 'a0' },
          b: { shotId: twin.id, color: 'estuary', order: 'a1' },
          c: { shotId: front!.id, color: 'oxblood', order: 'a2' },
        },
      },
    ]);
    await askForPictures(world.ctx.db, await findProduct(world.ctx, actor.workspaceId, product.id));
    await runJobs(world.ctx);
    expect((await tell(product.id)).map(({ id, duplicateOf }) => [id, duplicateOf])).toEqual([
      ['a', null],
      ['b', 'a'],
      ['c', null],
    ]);
    await world.ctx.db.run('DELETE FROM shot_pass WHERE shot_id = ?', [twin.id]);
    await world.ctx.db.run('DELETE FROM shot WHERE id = ?', [twin.id]);
  }, 120_000);

  it('of a damaged shot are named with the reason, and the rest goes on', async () => {
    const { product, blank } = await makeTee(world.ctx, actor, 'Half broken');
    const shots = await loadShots(world.ctx, [blank.id], actor.workspaceId);
    const back = shots.find((shot) => shot.document.angle === 'close-up')!;
    await world.ctx.db.run(
      "UPDATE shot SET document = JSON_SET(document, '$.version', 99), content_hash = REVERSE(content_hash) WHERE id = ?",
      [back.id],
    );
    const { id, workspaceId, title } = await findProduct(world.ctx, actor.workspaceId, product.id);
    const jobId = await askForPictures(world.ctx.db, { id, workspaceId, title });
    await runJobs(world.ctx);
    const job = await world.ctx.db.row<{ state: string; result: { made: number; failed: string[] } }>(
      'SELECT state, result FROM job WHERE id = ?',
      [jobId],
    );
    expect(job!.state).toBe('done');
    expect(job!.result.made).toBeGreaterThan(1);
    expect(job!.result.failed[0]).toMatch(/version 99.*update Typica/);
    // It is said where the picture is waited for, and no other one is blamed.
    const told = await tell(product.id);
    expect(told.filter(({ problem }) => problem).map(({ shotId }) => shotId)).toEqual([back.id]);
    expect(told.find(({ problem }) => problem)).toMatchObject({ state: 'none', problem: expect.stringMatching(/99/) });
    await world.ctx.db.run(
      "UPDATE shot SET document = JSON_SET(document, '$.version', 2), content_hash = REVERSE(content_hash) WHERE id = ?",
      [back.id],
    );
    expect((await tell(product.id)).filter(({ problem }) => problem)).toEqual([]);
  }, 120_000);
});

describe('forms of a picture', () => {
  it('are derived: format, longest side, square on a ground, pure white, weight; and not kept', async () => {
    const { product } = await makeTee(world.ctx, actor, 'In all forms');
    const [plan] = plansOf(await bundleOf(product.id));
    const rows = () => world.ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM rendering');
    const before = await rows();
    const png = await derivePicture(world.ctx, actor.workspaceId, plan!, {
      ...OWN_FORMAT,
      format: 'png',
      longSideMaxPx: 500,
    });
    expect([png.mediaType, png.widthPx, png.heightPx]).toEqual(['image/png', 500, 500]);
    expect((await sharp(png.bytes).metadata()).format).toBe('png');
    const webp = await derivePicture(world.ctx, actor.workspaceId, plan!, {
      ...OWN_FORMAT,
      format: 'webp',
      longSideMaxPx: 400,
    });
    expect((await sharp(webp.bytes).metadata()).format).toBe('webp');
    const white = await derivePicture(world.ctx, actor.workspaceId, plan!, {
      ...OWN_FORMAT,
      format: 'png',
      pureWhite: true,
    });
    expect(white.widthPx).toBe(1600);
    expect(await looks(white.bytes, 0.02, 0.02)).toEqual([255, 255, 255]);
    expect((await looks(white.bytes, 0.5, 0.75))[0]).toBeLessThan(120);
    const light = await derivePicture(world.ctx, actor.workspaceId, plan!, { ...OWN_FORMAT, maxBytes: 40_000 });
    expect(light.bytes.length).toBeLessThanOrEqual(40_000);
    expect(await rows()).toEqual(before);
  }, 120_000);

  it('are kept where a store takes them so: what was painted once is not painted again, and no other form is given for it', async () => {
    const { product } = await makeTee(world.ctx, actor, 'As a store takes it');
    const [plan] = plansOf(await bundleOf(product.id));
    const rows = async () => Number((await world.ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM rendering'))!.n);
    const before = await rows();
    const form = { ...OWN_FORMAT, longSideMaxPx: 300, squareOn: '#ffffff' };
    const asStore = (one: typeof form) => pictureAs(world.ctx, actor, plan!, one, true);
    const [first, again] = [await asStore(form), await asStore(form)];
    expect([again.bytes.equals(first.bytes), await rows()]).toEqual([true, before + 1]);
    const derived = await derivePicture(world.ctx, actor.workspaceId, plan!, form);
    expect([derived.bytes.equals(first.bytes), derived.mediaType]).toEqual([true, first.mediaType]);
    const webp = await asStore({ ...form, format: 'webp' } as typeof form);
    expect([webp.mediaType, (await sharp(webp.bytes).metadata()).format, await rows()]).toEqual([
      'image/webp',
      'webp',
      before + 2,
    ]);
  }, 120_000);

  it('are read from a request, or refused with what is wrong', () => {
    const read = (query: string) => readPictureFormat(new URLSearchParams(query));
    expect(read('format=webp&side=1200&square=yes&on=%23F0F0F0&white=yes&max=500000')).toEqual({
      format: 'webp',
      longSideMaxPx: 1200,
      squareOn: '#f0f0f0',
      pureWhite: true,
      maxBytes: 500_000,
    });
    expect(() => read('format=tiff')).toThrow(/jpeg, png, webp/);
    expect(() => read('side=12')).toThrow(/from 64 to 8000/);
    expect(() => read('on=red')).toThrow(/not a color/);
  });

  it('come as a store gets them, no larger than asked, and as no store of another account', async () => {
    const store = await connectStore(world, actor);
    const query = (side: string) => new URLSearchParams({ store: store.id, side });
    const { pictureFormat } = demandsOf(world.ctx, store);
    expect((await pictureFormatFor(world.ctx, actor, query('320'))).at(0)).toEqual({
      ...pictureFormat,
      longSideMaxPx: 320,
    });
    expect((await pictureFormatFor(world.ctx, actor, query('8000'))).at(0)).toEqual(pictureFormat);
    const stranger = await makeActor(world.ctx);
    await expect(pictureFormatFor(world.ctx, stranger, query('320'))).rejects.toMatchObject({ kind: 'not-found' });
  });

  it('come all in one ZIP that a stranger’s program opens', async () => {
    const { product } = await makeTee(world.ctx, actor, 'All at once');
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-zip-'));
    const stream = pictureArchive(world.ctx, actor, await bundleOf(product.id), {
      at: () => ({ ...OWN_FORMAT, longSideMaxPx: 300 }),
      isOfStore: false,
    });
    fs.writeFileSync(path.join(folder, 'all.zip'), Buffer.from(await new Response(stream).arrayBuffer()));
    const listed = execFileSync('python3', ['-m', 'zipfile', '-l', path.join(folder, 'all.zip')], { encoding: 'utf8' });
    expect(listed.match(/\.jpg/g)!.length).toBe(plansOf(await bundleOf(product.id)).length);
    expect(listed).toMatch(/01 Towpath Tee in \w+ with “Crossed Blades”, front\.jpg|01 Towpath Tee in/);
    fs.rmSync(folder, { recursive: true });
  }, 120_000);
});

describe('a store’s own pictures', () => {
  it('are told, made and found beside those for all; the same one is made once', async () => {
    const { product } = await makeTee(world.ctx, actor, 'In its own order');
    const bundle = await bundleOf(product.id);
    const all = plansOf(bundle);
    const { shotId, color } = all[1]!;
    const { document } = bundle.product;
    const pictures = { ...document.pictures, stores: { sone: { p1: { shotId, color, order: 'a0' } } } };
    const own = { ...bundle, product: { ...bundle.product, document: { ...document, pictures } } };
    expect(plansOf(own, 'sone').map(({ id }) => id)).toEqual(['p1']);
    expect(plansOf(own, 'stwo')).toEqual(all);
    expect((await picturesOf(world.ctx, own, 'sone')).map(({ id }) => id)).toEqual(['p1']);
    expect(allPlans(own).map(({ id }) => id)).toEqual([...all.map(({ id }) => id), 'p1']);
    expect(oncePerSlot(allPlans(own))).toEqual(all);
  });
});

describe('photographs', () => {
  it('are refused with the reason: a pixel, 60 megapixels, a drawing, a damaged file', async () => {
    const refusalOf = async (bytes: Buffer, name: string) => {
      const id = await bring(bytes, name);
      const row = await world.ctx.db.row<{ state: string; refusal: { message: string } | null }>(
        'SELECT state, refusal FROM artwork WHERE id = ?',
        [id],
      );
      expect(row!.state).toBe('refused');
      return row!.refusal!.message;
    };
    const flat = (width: number, height: number) =>
      sharp({ create: { width, height, channels: 3, background: '#888' } })
        .png({ compressionLevel: 9 })
        .toBuffer();
    expect(await refusalOf(await flat(1, 1), 'dot.png')).toMatch(/1 × 1 px.*200 px or more/);
    expect(await refusalOf(await flat(10_000, 6000), 'huge.png')).toMatch(/60 megapixels; up to 50/);
    const svg = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><rect width="9" height="9"/></svg>',
    );
    expect(await refusalOf(svg, 'drawing.svg')).toMatch(/drawing/);
    expect(await refusalOf((await photograph()).subarray(0, 900), 'cut.jpg')).toMatch(/damaged|cannot be/);
  }, 120_000);

  it('are pictures of a product, tied to a color, and are not deleted under it', async () => {
    const { product } = await makeTee(world.ctx, actor, 'With a photograph');
    const id = await bring(await photograph());
    const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
    const put = (imageId: string) =>
      patchProduct(world.ctx, actor, product.id, revision, [
        {
          op: 'add',
          path: '/pictures/base',
          value: { own: { shotId: null, imageId, color: 'estuary', order: 'a0', alt: 'Seen on the slip' } },
        },
      ]);
    await expect(put('nobody')).rejects.toThrow(/not ready in this workspace/);
    await put(id);
    const [plan] = plansOf(await bundleOf(product.id));
    expect(plan).toMatchObject({ shot: null, color: 'estuary', alt: 'Seen on the slip' });
    const made = await ensurePicture(world.ctx, actor, plan!, 'proof');
    expect([made.widthPx, made.heightPx]).toEqual([600, 500]);
    const square = await derivePicture(world.ctx, actor.workspaceId, plan!, {
      ...OWN_FORMAT,
      format: 'png',
      squareOn: '#ffffff',
    });
    expect([square.widthPx, square.heightPx]).toEqual([600, 600]);
    expect(await looks(square.bytes, 0.5, 0.01)).toEqual([255, 255, 255]);
    await expect(deletePhotograph(world.ctx, actor, id)).rejects.toThrow(/With a photograph/);
    expect((await listPhotographs(world.ctx, actor.workspaceId)).map((one) => one.id)).toContain(id);
    expect(await listPhotographs(world.ctx, other.workspaceId)).toEqual([]);
  }, 120_000);
});

describe('a shot of one’s own', () => {
  const marked = (photographId: string, over: Partial<MarkedShot> = {}): MarkedShot => ({
    photographId,
    name: 'On the bench',
    areaKey: 'main.front',
    variant: { size: 'm' },
    marks: {
      kind: 'corners',
      corners: [
        { x: 200, y: 150 },
        { x: 400, y: 150 },
        { x: 400, y: 350 },
        { x: 200, y: 350 },
      ],
    },
    part: { picks: [{ x: 150, y: 150, tolerance: 36 }], strokes: [] },
    ...over,
  });

  it('is made of a photograph and its marks, takes the fabric’s color, is reused, marked anew and deleted', async () => {
    const { product, blank } = await makeTee(world.ctx, actor, 'On my bench');
    const id = await bring(await photograph());
    const shot = await saveOwnShot(world.ctx, actor, blank.id, marked(id));
    expect(shot.workspaceId).toBe(actor.workspaceId);
    expect((await loadShots(world.ctx, [blank.id], other.workspaceId)).map((one) => one.id)).not.toContain(shot.id);
    const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
    await patchProduct(world.ctx, actor, product.id, revision, [
      {
        op: 'add',
        path: '/pictures/base',
        value: {
          a: { shotId: shot.id, color: 'skiff', order: 'a0' },
          b: { shotId: shot.id, color: 'gorse', order: 'a1' },
        },
      },
    ]);
    const [blue, yellow] = plansOf(await bundleOf(product.id));
    const seen = async (plan: typeof blue) =>
      looks(
        (await derivePicture(world.ctx, actor.workspaceId, plan!, { ...OWN_FORMAT, format: 'png' })).bytes,
        0.25,
        0.6,
      );
    // The cloth is red in the photograph, and blue and yellow in the pictures; the ground stays as it is.
    const [r1, , b1] = (await seen(blue)) as [number, number, number];
    const [r2, , b2] = (await seen(yellow)) as [number, number, number];
    expect(b1).toBeGreaterThan(r1);
    expect(r2).toBeGreaterThan(b2);
    await expect(deleteOwnShot(world.ctx, actor, shot.id)).rejects.toThrow(/On my bench/);
    const { marked: kept } = await findOwnShot(world.ctx, actor.workspaceId, shot.id);
    expect(markedShotOf(ownShotView(kept) as never)).toEqual(marked(id));
    await expect(findOwnShot(world.ctx, other.workspaceId, shot.id)).rejects.toThrow(/no shot/);
    const again = await saveOwnShot(world.ctx, actor, blank.id, marked(id, { name: 'Marked anew' }), shot.id);
    expect([again.id, again.document.name]).toEqual([shot.id, 'Marked anew']);
    const now = await findProduct(world.ctx, actor.workspaceId, product.id);
    await patchProduct(world.ctx, actor, product.id, now.revision, [
      { op: 'replace', path: '/pictures/base', value: {} },
    ]);
    await deleteOwnShot(world.ctx, actor, shot.id);
    await deletePhotograph(world.ctx, actor, id);
  }, 120_000);

  it('is refused when its marks make no sense, when nothing is under the print, or for an area that is not there', async () => {
    const blank = await findBlank(world.ctx, 'millrace', 'towpath-tee');
    const id = await bring(await photograph());
    const save = (over: Partial<MarkedShot>) => saveOwnShot(world.ctx, actor, blank.id, marked(id, over));
    const corners = (...points: [number, number][]) =>
      ({ kind: 'corners', corners: points.map(([x, y]) => ({ x, y })) }) as unknown as MarkedShot['marks'];
    await expect(save({ marks: corners([10, 10], [200, 10], [10, 200], [200, 200]) })).rejects.toThrow(/cross/);
    await expect(save({ marks: corners([10, 10], [700, 10], [700, 200], [10, 200]) })).rejects.toThrow(/outside/);
    await expect(save({ marks: corners([10, 10], [14, 10], [14, 14], [10, 14]) })).rejects.toThrow(/4 px/);
    await expect(save({ part: { picks: [{ x: 5, y: 5, tolerance: 10 }], strokes: [] } })).rejects.toThrow(
      /does not reach/,
    );
    await expect(save({ areaKey: 'main.hood' })).rejects.toThrow(/no print area/);
    expect((await loadShots(world.ctx, [blank.id], actor.workspaceId)).filter((shot) => shot.workspaceId)).toEqual([]);
    expect(() => markedShotOf({ ...marked(id), marks: { kind: 'corners', points: [] } } as never)).toThrow(
      /Set every mark/,
    );
  }, 120_000);

  it('around a body keeps the good’s own color', async () => {
    const blank = await findBlank(world.ctx, 'oststern', 'galley-mug');
    const id = await bring(await photograph());
    const shot = await saveOwnShot(
      world.ctx,
      actor,
      blank.id,
      marked(id, {
        areaKey: 'main.wrap',
        variant: { size: '11oz' },
        part: null,
        marks: {
          kind: 'cylinder',
          left: [
            { x: 160, y: 140 },
            { x: 160, y: 360 },
          ],
          right: [
            { x: 440, y: 140 },
            { x: 440, y: 360 },
          ],
          bendTopPx: 14,
          bendBottomPx: 20,
          spanDeg: 180,
          diameterMm: 82,
          middleMm: 100,
        },
      }),
    );
    expect(shot.document.passes.fabric).toBeUndefined();
    expect(shot.document.areas['main.wrap']!.map.kind).toBe('cylinder');
    await deleteOwnShot(world.ctx, actor, shot.id);
  }, 120_000);
});

describe('shots of the catalog', () => {
  it('are exchanged one by one without touching anything else, and a damaged one is refused', async () => {
    const blank = await findBlank(world.ctx, 'oststern', 'sticker-sheet');
    const folder = path.resolve(import.meta.dirname, '../../demo/shots');
    const read = (_code: string, file: string) => fs.promises.readFile(path.join(folder, 'sticker-near', file));
    const before = await loadShots(world.ctx, [blank.id], actor.workspaceId);
    await importShot(world.ctx, blank.id, 'sticker-a6', 0, read);
    const after = await loadShots(world.ctx, [blank.id], actor.workspaceId);
    expect(after.map((shot) => shot.id)).toEqual(before.map((shot) => shot.id));
    expect(after[0]!.contentHash).not.toBe(before[0]!.contentHash);
    expect(after[1]!.contentHash).toBe(before[1]!.contentHash);
    const newer = async (code: string, file: string) =>
      file === 'shot.json' ? Buffer.from(JSON.stringify({ format: 'typica-shot', version: 4 })) : read(code, file);
    await expect(importShot(world.ctx, blank.id, 'sticker-a6', 0, newer)).rejects.toThrow(
      /reads up to 3; update Typica/,
    );
  }, 120_000);
});
