import { parentPort } from 'node:worker_threads';
import sharp from 'sharp';
import { isTypicaError } from '@/core/errors';
import { printSheet } from './printer';
import type { PrintAnswer, PrintOrder } from './threads';

/** The thread that draws print files: one at a time, so that a server that does so still answers. */
sharp.concurrency(1);
parentPort!.on('message', ({ sheet, files }: PrintOrder) => {
  const read = async (sha256: string) => {
    const bytes = files.get(sha256)!;
    return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  };
  const answer = (message: PrintAnswer, move: ArrayBuffer[] = []) => parentPort!.postMessage(message, move);
  printSheet(read, sheet).then(
    (png) => {
      // A copy of its own: only what is not a part of Node's pool can be moved to another thread.
      const bytes = png.byteLength === png.buffer.byteLength ? new Uint8Array(png.buffer) : new Uint8Array(png);
      answer({ png: bytes }, [bytes.buffer as ArrayBuffer]);
    },
    (error: unknown) => {
      if (isTypicaError(error)) answer({ refusal: { kind: error.kind, code: error.code, message: error.message } });
      else answer({ failure: String((error as Error).stack ?? error) });
    },
  );
});
