import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { TypicaError } from '@/core/errors';
import type { BlobFiles } from '@/ports/blobs';

const missing = (sha256: string, cause?: unknown) =>
  new TypicaError(
    'not-found',
    'blob-missing',
    'This file is no longer on the server’s disk; upload it again.',
    { sha256 },
    cause,
  );

/** Blobs as files `ab/cd…` in a folder. A file appears under its name only when it is whole: it is written beside and renamed. */
export function diskBlobs(folder: string): BlobFiles {
  const fileOf = (sha256: string) => {
    if (!/^[0-9a-f]{64}$/.test(sha256))
      throw new TypicaError('bug', 'blob-name', 'a blob was asked for by something that is no hash');
    return path.join(folder, sha256.slice(0, 2), sha256.slice(2));
  };
  const room = async (sha256: string) => {
    const file = fileOf(sha256);
    await fs.mkdir(path.dirname(file), { recursive: true });
    return file;
  };
  return {
    async put(sha256, bytes) {
      const file = await room(sha256);
      const beside = `${file}.${randomUUID()}`;
      await fs.writeFile(beside, bytes);
      await fs.rename(beside, file);
    },
    async take(sha256, from) {
      const file = await room(sha256);
      await fs.rename(from, file).catch(async (error: NodeJS.ErrnoException) => {
        if (error.code !== 'EXDEV') throw error;
        // Another file system: copy beside, then rename.
        const beside = `${file}.${randomUUID()}`;
        await fs.copyFile(from, beside);
        await fs.rename(beside, file);
        await fs.rm(from);
      });
    },
    async get(sha256) {
      try {
        return await fs.readFile(fileOf(sha256));
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === 'ENOENT') throw missing(sha256, error);
        throw error;
      }
    },
    async stream(sha256) {
      const file = fileOf(sha256);
      await fs.access(file).catch((error) => {
        throw missing(sha256, error);
      });
      return Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>;
    },
    async link(sha256, to) {
      const file = fileOf(sha256);
      try {
        await fs.link(file, to);
      } catch (error) {
        const { code } = error as NodeJS.ErrnoException;
        if (code === 'ENOENT') throw missing(sha256, error);
        if (code === 'EEXIST') return;
        // Another file system, or one without links.
        await fs.copyFile(file, to);
      }
    },
    async has(sha256) {
      return fs.access(fileOf(sha256)).then(
        () => true,
        () => false,
      );
    },
    async remove(sha256) {
      await fs.rm(fileOf(sha256), { force: true });
    },
  };
}
