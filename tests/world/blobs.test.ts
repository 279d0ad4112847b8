import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cleanBlobs, putBlob, readBlob, sha256Of } from '@/server/blobs/blobs';
import { findArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { artworkFile, makeActor, makeWorld, runJobs, streamOf, type World } from '../support/world';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());
const age = () => world.ctx.db.run('UPDATE blob_object SET touched_at = UTC_TIMESTAMP(3) - INTERVAL 2 HOUR');
const has = (sha256: string) => world.ctx.files.has(sha256);

describe('blobs', () => {
  it('are cleaned up when nothing refers to them, and not while young', async () => {
    const sha256 = await putBlob(world.ctx, Buffer.from('driftwood'), 'text/plain');
    expect(sha256).toBe(sha256Of(Buffer.from('driftwood')));
    expect(await cleanBlobs(world.ctx)).toBe(0);
    await age();
    expect(await cleanBlobs(world.ctx)).toBe(1);
    expect(await has(sha256)).toBe(false);
  });

  it('stay while an artwork refers to them', async () => {
    const actor = await makeActor(world.ctx);
    const { id } = await uploadArtwork(world.ctx, actor, streamOf(artworkFile('tideline')), 'tideline.svg');
    await runJobs(world.ctx);
    await age();
    expect(await cleanBlobs(world.ctx)).toBe(0);
    const artwork = await findArtwork(world.ctx, actor.workspaceId, id);
    expect(artwork.state).toBe('ready');
    for (const sha256 of [
      artwork.originalSha256,
      artwork.sourceSha256!,
      artwork.previewSha256!,
      artwork.thumbnailSha256!,
    ])
      expect(await has(sha256)).toBe(true);
    await world.ctx.db.run('DELETE FROM artwork WHERE id = ?', [id]);
    expect(await cleanBlobs(world.ctx)).toBe(4);
  });

  it('survive being put and cleaned at the same time', async () => {
    const bytes = Buffer.from('tide race');
    for (let round = 0; round < 30; round += 1) {
      await putBlob(world.ctx, bytes, 'text/plain');
      await age();
      const [sha256] = await Promise.all([putBlob(world.ctx, bytes, 'text/plain'), cleanBlobs(world.ctx)]);
      // Whoever was last, row and file agree.
      const row = await world.ctx.db.row('SELECT 1 FROM blob_object WHERE sha256 = ?', [sha256]);
      expect(await has(sha256)).toBe(row !== null);
      expect(row).not.toBeNull();
      expect((await readBlob(world.ctx, sha256)).toString()).toBe('tide race');
    }
  });
});

describe('uploads', () => {
  it('are refused in a sentence, and others go on', async () => {
    const actor = await makeActor(world.ctx);
    const [bad, bomb, good] = await Promise.all([
      uploadArtwork(world.ctx, actor, streamOf('not a picture'), 'photo.png'),
      uploadArtwork(
        world.ctx,
        actor,
        streamOf(
          `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${Array.from({ length: 14 }, (_, i) => `<g id="g${i}">${i ? `<use href="#g${i - 1}"/>`.repeat(10) : '<path d="M0 0"/>'}</g>`).join('')}</svg>`,
        ),
        'bomb.svg',
      ),
      uploadArtwork(world.ctx, actor, streamOf(artworkFile('pennants')), 'C:\\art\\pennants.svg'),
    ]);
    await runJobs(world.ctx);
    const state = async (id: string) => findArtwork(world.ctx, actor.workspaceId, id);
    expect(await state(bad.id)).toMatchObject({ state: 'refused', refusal: { code: 'artwork-format' } });
    expect(await state(bomb.id)).toMatchObject({ state: 'refused', refusal: { code: 'svg-refused' } });
    expect(await state(good.id)).toMatchObject({ state: 'ready', name: 'pennants', facts: { vector: true } });
  });

  it('of more than 100 MB are refused, read on only within reason', async () => {
    const actor = await makeActor(world.ctx);
    const chunk = new Uint8Array(1024 * 1024);
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({ pull: (c) => ((sent += 1), c.enqueue(chunk)) });
    await expect(uploadArtwork(world.ctx, actor, endless, 'big.png')).rejects.toMatchObject({
      code: 'artwork-too-large',
    });
    expect(sent).toBeLessThan(410);
    const slightly = new Blob([new Uint8Array(101 * 1024 * 1024)]).stream();
    await expect(uploadArtwork(world.ctx, actor, slightly, 'big.png')).rejects.toMatchObject({
      code: 'artwork-too-large',
    });
  });
});
