import { parentPort, workerData } from 'node:worker_threads';
import sharp from 'sharp';
import { isTypicaError } from '@/core/errors';
import { blobFilesOf } from '../context';
import { Painter } from './painter';
import type { PainterAnswer, PainterOrder } from './painters';

/** The thread that paints mock-ups, so that a server that does so still answers. Packing goes on beside in Node's own pool. */
sharp.concurrency(1);
// What is kept is kept as pixels, by the painter itself.
sharp.cache(false);
const { home } = workerData as { readonly home: string };
const files = blobFilesOf(home);
const painter = new Painter((sha256) => files.get(sha256), home);
parentPort!.on('message', ({ id, order }: PainterOrder) => {
  const answer = (message: PainterAnswer, move: ArrayBuffer[] = []) => parentPort!.postMessage(message, move);
  painter.paint(order).then(
    (painted) => {
      // A copy of its own: only what is not a part of Node's pool can be moved to another thread.
      const bytes = new Uint8Array(painted.bytes);
      answer({ id, painted: { ...painted, bytes } }, [bytes.buffer as ArrayBuffer]);
    },
    (error: unknown) =>
      answer(
        isTypicaError(error)
          ? { id, refusal: { kind: error.kind, code: error.code, message: error.message } }
          : { id, failure: (error as Error).stack ?? String(error) },
      ),
  );
});
