import crypto from 'node:crypto';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { isTypicaError } from '@/core/errors';
import type { BlobFiles } from '../blobs';

const hashOf = (bytes: Uint8Array) => crypto.createHash('sha256').update(bytes).digest('hex');

/** What every place for bytes must do. */
export function runBlobTests(name: string, setup: () => Promise<BlobFiles>): void {
  describe(`blobs: ${name}`, () => {
    const bytes = new TextEncoder().encode('tide');
    const sha256 = hashOf(bytes);

    it('gives back what was put, and takes the same again', async () => {
      const blobs = await setup();
      await blobs.put(sha256, bytes);
      await blobs.put(sha256, bytes);
      expect(new Uint8Array(await blobs.get(sha256))).toEqual(bytes);
      expect(await new Response(await blobs.stream(sha256)).text()).toBe('tide');
    });

    it('takes a file in', async () => {
      const blobs = await setup();
      const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-blob-'));
      const file = path.join(folder, 'x');
      await fs.writeFile(file, 'ebb');
      const sha = hashOf(Buffer.from('ebb'));
      await blobs.take(sha, file);
      expect((await blobs.get(sha)).toString()).toBe('ebb');
      await expect(fs.access(file)).rejects.toThrow();
    });

    it('makes bytes a file under another name, and leaves them when that goes', async () => {
      const blobs = await setup();
      await blobs.put(sha256, bytes);
      const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-blob-'));
      const file = path.join(folder, 'linked');
      await blobs.link(sha256, file);
      expect(await fs.readFile(file, 'utf8')).toBe('tide');
      await fs.rm(file);
      expect(await blobs.has(sha256)).toBe(true);
      await expect(blobs.link('f'.repeat(64), file)).rejects.toSatisfy((error) => isTypicaError(error, 'blob-missing'));
    });

    it('says what is missing, by a code', async () => {
      const blobs = await setup();
      const none = 'f'.repeat(64);
      expect(await blobs.has(none)).toBe(false);
      await expect(blobs.get(none)).rejects.toSatisfy((error) => isTypicaError(error, 'blob-missing'));
      await expect(blobs.stream(none)).rejects.toSatisfy((error) => isTypicaError(error, 'blob-missing'));
      await blobs.remove(none);
    });

    it('takes away', async () => {
      const blobs = await setup();
      await blobs.put(sha256, bytes);
      await blobs.remove(sha256);
      expect(await blobs.has(sha256)).toBe(false);
    });

    it('refuses what is no hash, so that no path can be smuggled in', async () => {
      const blobs = await setup();
      await expect(blobs.get('../../etc/passwd')).rejects.toThrow();
    });
  });
}
