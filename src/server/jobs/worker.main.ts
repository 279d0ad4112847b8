import 'reflect-metadata';
import sharp from 'sharp';
import { dropRefused } from '../artwork/artwork';
import { askToLookAgain } from '../artwork/ingest.job';
import { cleanBlobs } from '../blobs/blobs';
import { makeContext } from '../context';
import { dropOldEvents } from '../events/events';
import { thinRevisions } from '../products/revisions';
import { dropUnusedPlanes } from '../pictures/half-planes';
import { dropOldRenderings } from '../pictures/renderings';
import { handlers } from './handlers';
import { work } from './worker';

/** A worker process. SIGTERM lets it finish what it has begun. */
const stop = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => stop.abort());

// Two jobs at once with one thread each beat one job with two threads by a fifth.
sharp.concurrency(1);
const ctx = makeContext();
process.stdout.write(`${new Date().toISOString()} worker ${process.pid} started\n`);
await work(ctx, handlers, stop.signal, {
  onIdle: async () => {
    await dropOldEvents(ctx);
    await dropOldRenderings(ctx);
    await dropRefused(ctx);
    await askToLookAgain(ctx);
    await cleanBlobs(ctx);
    await thinRevisions(ctx);
    await dropUnusedPlanes(ctx.config.home);
  },
});
await ctx.pools.close();
process.stdout.write(`${new Date().toISOString()} worker ${process.pid} stopped\n`);
