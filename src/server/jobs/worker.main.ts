import 'reflect-metadata';
import sharp from 'sharp';
import { chores } from '../chores/all';
import { keepHouse } from '../chores/chores';
import { makeContext } from '../context';
import { log } from '../log';
import { keepJudged } from '../outcomes/judge';
import { handlers } from './handlers';
import { work } from './worker';

/** A worker process. SIGTERM lets it finish what it has begun. */
const stop = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => stop.abort());

// Two jobs at once with one thread each beat one job with two threads by a fifth.
sharp.concurrency(1);
process.on('unhandledRejection', (reason) => log.error({ err: reason }, 'a rejection nobody handled'));
const ctx = makeContext();
log.info('worker started');
await Promise.all([
  work(ctx, handlers, stop.signal, { lanes: ctx.config.lanes }),
  keepHouse(ctx, chores, stop.signal),
  keepJudged(ctx, stop.signal),
]);
await ctx.pools.close();
log.info('worker stopped');
// Processes that drew for this one end with its end of the line to them; nothing else is waited for.
process.exit(0);
