import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { ingestInChild } from '@/server/images/child';

let folder = '';
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-child-'));
});
const put = async (name: string, bytes: Buffer | string) => {
  const file = path.join(folder, name);
  await fs.writeFile(file, bytes);
  return file;
};

describe('the child process that looks at strangers’ files', () => {
  it('gives what it found', async () => {
    const { facts } = await ingestInChild(
      await put(
        'ok',
        await sharp({ create: { width: 30, height: 20, channels: 3, background: '#a33' } })
          .png()
          .toBuffer(),
      ),
      folder,
    );
    expect(facts).toMatchObject({ widthPx: 30, heightPx: 20 });
  });

  it('is ended when it takes too long, and we live on', async () => {
    const hang = await put('hang.mjs', 'for (;;);');
    await expect(ingestInChild('x', folder, { program: hang, seconds: 0.6 })).rejects.toMatchObject({
      code: 'artwork-too-slow',
    });
  });

  it('is ended when it takes too much memory', async () => {
    const hog = await put('hog.mjs', 'const all = []; for (;;) all.push(Buffer.alloc(8_000_000, 1));');
    await expect(
      ingestInChild('x', folder, { program: hog, memoryMb: 300, smallMb: 200, seconds: 20 }),
    ).rejects.toMatchObject({
      code: 'artwork-too-heavy',
    });
  });

  it('may crash', async () => {
    const crash = await put('crash.mjs', 'process.abort();');
    await expect(ingestInChild('x', folder, { program: crash })).rejects.toMatchObject({ code: 'reader-stopped' });
  });

  it('sees none of our secrets', async () => {
    process.env.TYPICA_DATABASE_URL ??= 'mysql://secret';
    const tell = await put(
      'tell.mjs',
      'process.stdout.write(JSON.stringify({ refusal: { code: "env", message: Object.keys(process.env).filter((k) => k.startsWith("TYPICA")).join(), fields: {} } }));',
    );
    await expect(ingestInChild('x', folder, { program: tell })).rejects.toMatchObject({ code: 'env', message: '' });
  });
});
