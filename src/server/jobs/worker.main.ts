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
import { log } from '../log';
import { dropOldTries } from '../people/sign-in-limits';
import { dropLeftFiles } from '../studio/old-files';
import { handlers } from './handlers';
import { dropIdleTurns } from './jobs';
import { work } from './worker';

/** A worker process. SIGTERM lets it finish what it has begun. */
const stop = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => stop.abort());

// Two jobs at once with one thread each beat one job with two threads by a fifth.
sharp.concurrency(1);
process.on('unhandledRejection', (reason) => log.error({ err: reason }, 'a rejection nobody handled'));
const ctx = makeContext();
log.info('worker started');
await work(ctx, handlers, stop.signal, {
  onIdle: async () => {
    await dropOldTries(ctx);
    await dropIdleTurns(ctx);
    await dropOldEvents(ctx);
    await dropOldRenderings(ctx);
    await dropRefused(ctx);
    await askToLookAgain(ctx);
    await cleanBlobs(ctx);
    await thinRevisions(ctx);
    await dropUnusedPlanes(ctx.config.home);
    await dropLeftFiles(ctx.config.home);
  },
});
await ctx.pools.close();
log.info('worker stopped');
// Processes that drew for this one end with its end of the line to them; nothing else is waited for.
process.exit(0);
