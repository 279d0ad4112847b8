import { setTimeout as delay } from 'node:timers/promises';
import type { Context } from '../context';
import {
  claim,
  complete,
  endCancelled,
  fail,
  heartbeat,
  LEASE_SECONDS,
  LeaseLost,
  reportProgress,
  type JobRow,
  type Lease,
} from './jobs';

/** What a kind of job is given beside the context. */
export interface JobControl {
  readonly job: JobRow;
  /** Says how far it is; throws when the job was cancelled or taken over, so that work stops at a step. */
  progress(done: number, total: number, note: string): Promise<void>;
}

export type JobHandler = (ctx: Context, control: JobControl) => Promise<unknown>;

class Cancelled extends Error {}

/** Runs one leased job to its end, whatever that is. */
export async function runJob(ctx: Context, lease: Lease, handler: JobHandler): Promise<void> {
  let cancelAsked = lease.job.cancelAsked === 1;
  let lost = false;
  const beat = setInterval(
    () => {
      heartbeat(ctx, lease).then(
        (state) => (cancelAsked ||= state.cancelAsked),
        (error) => (lost ||= error instanceof LeaseLost),
      );
    },
    (LEASE_SECONDS * 1000) / 3,
  );
  const control: JobControl = {
    job: lease.job,
    async progress(done, total, note) {
      if (lost) throw new LeaseLost(lease.job.id);
      cancelAsked ||= (await heartbeat(ctx, lease)).cancelAsked;
      if (cancelAsked) throw new Cancelled();
      await reportProgress(ctx, lease, done, total, note);
    },
  };
  try {
    const result = await handler(ctx, control);
    await complete(ctx, lease, result);
  } catch (error) {
    if (error instanceof Cancelled) await endCancelled(ctx, lease);
    else if (!(error instanceof LeaseLost)) {
      process.stderr.write(
        `${new Date().toISOString()} job ${lease.job.kind} ${lease.job.id} attempt ${lease.job.attempts}: ${(error as Error).stack ?? error}\n`,
      );
      await fail(ctx, lease, error);
    }
  } finally {
    clearInterval(beat);
  }
}

/** A worker: `lanes` jobs at once until `signal` is aborted; what runs then is let finish. `onIdle` runs about once a minute. */
export async function work(
  ctx: Context,
  handlers: { readonly [kind: string]: JobHandler },
  signal: AbortSignal,
  {
    lanes = 2,
    idleMs = 150,
    onIdle = async () => {},
  }: { lanes?: number; idleMs?: number; onIdle?: () => Promise<void> } = {},
): Promise<void> {
  const kinds = Object.keys(handlers);
  let nextIdle = Date.now() + 60_000;
  const lane = async (first: boolean) => {
    while (!signal.aborted) {
      const lease = await claim(ctx, kinds).catch((error: Error) => {
        process.stderr.write(`${new Date().toISOString()} claim: ${error.message}\n`);
        return null;
      });
      if (lease) await runJob(ctx, lease, handlers[lease.job.kind]!);
      else {
        if (first && Date.now() > nextIdle) {
          nextIdle = Date.now() + 60_000;
          await onIdle().catch((error: Error) =>
            process.stderr.write(`${new Date().toISOString()} housekeeping: ${error.message}\n`),
          );
        }
        await delay(idleMs, undefined, { signal }).catch(() => undefined);
      }
    }
  };
  await Promise.all(Array.from({ length: lanes }, (_, i) => lane(i === 0)));
}
