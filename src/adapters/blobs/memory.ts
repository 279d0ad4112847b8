import fs from 'node:fs/promises';
import { TypicaError } from '@/core/errors';
import type { BlobFiles } from '@/ports/blobs';

/** The stand-in for tests that need no disk. */
export function memoryBlobs(): BlobFiles {
  const held = new Map<string, Buffer>();
  const find = async (sha256: string) => {
    if (!/^[0-9a-f]{64}$/.test(sha256))
      throw new TypicaError('bug', 'blob-name', 'a blob was asked for by something that is no hash');
    const bytes = held.get(sha256);
    if (!bytes) throw new TypicaError('not-found', 'blob-missing', 'This file is not here.', { sha256 });
    return bytes;
  };
  return {
    put: async (sha256, bytes) => void held.set(sha256, Buffer.from(bytes)),
    take: async (sha256, file) => {
      held.set(sha256, await fs.readFile(file));
      await fs.rm(file);
    },
    get: find,
    stream: async (sha256) => new Blob([new Uint8Array(await find(sha256))]).stream(),
    link: async (sha256, file) => fs.writeFile(file, await find(sha256)),
    has: async (sha256) => held.has(sha256),
    remove: async (sha256) => void held.delete(sha256),
  };
}
