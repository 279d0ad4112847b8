import PQueue from 'p-queue';
import { TypicaError } from '@/core/errors';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { inLogScope, log } from '../log';
import { claim, type ClaimLimits } from './claim';
import type { JobRow } from './job-row';
import {
  complete,
  endCancelled,
  fail,
  heartbeat,
  LEASE_SECONDS,
  LeaseLost,
  underLease,
  type Lease,
  type Progress,
} from './lease';
import { ownEntry } from '@/core/own-entry';

/** What a kind of job is given beside the context. */
export interface JobControl {
  readonly job: JobRow;
  /**
   * Says how far it is; throws when the job was cancelled or taken over, so that work stops at a step. It is written down, and asked, a few times a
   * second at most: quick steps do not wait for it.
   */
  progress(done: number, total: number, note: string): Promise<void>;
  /** Aborted when the job was cancelled or taken over, or has run for too long: for steps that take long by themselves. */
  readonly signal: AbortSignal;
  /**
   * To be asked right before a step that cannot be taken back outside. Throws when the job is no longer this worker's: a process that was stopped
   * and wakes up does not know by itself for how long it slept.
   */
  mayGoOn(): Promise<void>;
  /** Writes in a transaction in which the job is this worker's; throws, and writes nothing, when it is not. */
  write<T>(work: (db: Database) => Promise<T>): Promise<T>;
}

export type JobHandler = (ctx: Context, control: JobControl) => Promise<unknown>;

class Cancelled extends Error {}

/** Two clocks: one stands still while the machine sleeps, the other can be set. */
const clocks = () => ({ wall: Date.now(), steady: performance.now() });
const since = (then: ReturnType<typeof clocks>): number =>
  Math.max(Date.now() - then.wall, performance.now() - then.steady);
/** A lease that was confirmed so lately is taken to hold. */
const FRESH_MS = (LEASE_SECONDS * 1000) / 2;

/** Longest that one try of a job may run. */
const JOB_SECONDS = 30 * 60;
const tooLong = () =>
  new TypicaError(
    'unavailable',
    'job-too-long',
    `This job ran for ${JOB_SECONDS / 60} minutes and was stopped. It is tried again; what was done already is kept.`,
  );

/** How often at most it is written down how far a job is. */
const TELL_MS = 400;

/** What a running job is told and says: its lease, whether it was asked to stop, how far it is. */
class Reins {
  readonly end = new AbortController();
  private heard = clocks();
  private told = performance.now();
  private untold: Progress | null = null;
  private telling: NodeJS.Timeout | null = null;

  constructor(
    private readonly ctx: Context,
    private readonly lease: Lease,
  ) {
    if (lease.job.cancelAsked === 1) this.heed({ cancelAsked: true });
  }

  heed({ cancelAsked }: { readonly cancelAsked: boolean }): void {
    if (cancelAsked) this.end.abort(new Cancelled());
  }

  /** Extends the lease; it counts from before it was asked for. What was not told yet goes along. */
  async beat(): Promise<void> {
    const asked = clocks();
    const progress = this.untold ?? undefined;
    this.untold = null;
    if (progress) this.told = performance.now();
    this.heed(await heartbeat(this.ctx, this.lease, progress));
    this.heard = asked;
  }

  /** A beat of which nobody waits for the end. */
  beatAlone = (): void => {
    void this.beat().catch((error: unknown) => {
      // After a lease's time without an answer another worker has the job, whether or not we were told.
      const isLost = error instanceof LeaseLost || since(this.heard) > LEASE_SECONDS * 1000;
      if (isLost) this.end.abort(new LeaseLost(this.lease.job.id));
      else log.warn({ err: error }, 'a heartbeat failed');
    });
  };

  /** Says how far the job is: now, or together with what follows within the moment. */
  async tell(progress: Progress): Promise<void> {
    this.end.signal.throwIfAborted();
    this.untold = progress;
    const wait = this.told + TELL_MS - performance.now();
    if (wait > 0) {
      this.telling ??= setTimeout(() => {
        this.telling = null;
        if (this.untold) this.beatAlone();
      }, wait);
      return;
    }
    await this.beat();
    this.end.signal.throwIfAborted();
  }

  /** Asks until the answer is fresh: the sleep can come between the answer and here. */
  async renewed(): Promise<void> {
    while (since(this.heard) > FRESH_MS) await this.beat();
    this.end.signal.throwIfAborted();
  }

  /** Says nothing more by itself; gives what was not told yet. */
  letGo(): Progress | undefined {
    if (this.telling) clearTimeout(this.telling);
    this.telling = null;
    return this.untold ?? undefined;
  }
}

/** Runs one leased job to its end, whatever that is. Never throws: a job whose end cannot be written down is another worker's when its lease runs out. */
export async function runJob(ctx: Context, lease: Lease, handler: JobHandler): Promise<void> {
  const reins = new Reins(ctx, lease);
  const { end } = reins;
  const beat = setInterval(reins.beatAlone, (LEASE_SECONDS * 1000) / 3);
  const late = setTimeout(() => end.abort(tooLong()), JOB_SECONDS * 1000);
  const control: JobControl = {
    job: lease.job,
    signal: end.signal,
    progress: (done, total, note) => reins.tell({ done, total, note }),
    mayGoOn: () => reins.renewed(),
    async write(work) {
      const { made, cancelAsked } = await underLease(ctx, lease, work);
      reins.heed({ cancelAsked });
      return made;
    },
  };
  try {
    const result = await handler(ctx, control);
    await complete(ctx, lease, result, reins.letGo());
  } catch (error) {
    // What a step threw when it was aborted is the reason for that.
    const reason: unknown = end.signal.aborted ? end.signal.reason : error;
    await noteEnd(ctx, lease, reason).catch((trouble: unknown) =>
      log.error({ err: trouble }, 'the end of a job could not be written down'),
    );
  } finally {
    clearInterval(beat);
    clearTimeout(late);
    reins.letGo();
  }
}

async function noteEnd(ctx: Context, lease: Lease, reason: unknown): Promise<void> {
  if (reason instanceof Cancelled) {
    await endCancelled(ctx, lease);
    return;
  }
  if (reason instanceof LeaseLost) return;
  // What only came too soon is nothing that an operator could mend, and happens often.
  const isEarly = reason instanceof TypicaError && reason.fields.costsNoTry === true;
  if (!isEarly) log.warn({ err: reason, kind: lease.job.kind, attempt: lease.job.attempts }, 'a job failed');
  await fail(ctx, lease, reason);
}

/** Seconds after which a job is slow: it no longer fills a lane, so that a slow file does not keep out a quick one. */
const SLOW_SECONDS = 3;

/** How many there are of each. */
class Counts extends Map<string, number> {
  add(key: string, by: 1 | -1): void {
    const n = (this.get(key) ?? 0) + by;
    if (n === 0) this.delete(key);
    else this.set(key, n);
  }

  of = (key: string): number => this.get(key) ?? 0;
}

/** Jobs that run in this worker, by workspace, those that have become slow apart, and by store. */
class Running {
  private readonly quick = new Counts();
  private readonly all = new Counts();
  private readonly stores = new Counts();
  slow = 0;

  begin({ workspaceId, storeId }: Pick<JobRow, 'workspaceId' | 'storeId'>): { slow(): void; end(): void } {
    this.quick.add(workspaceId, 1);
    this.all.add(workspaceId, 1);
    if (storeId) this.stores.add(storeId, 1);
    let isSlow = false;
    return {
      slow: () => {
        isSlow = true;
        this.slow += 1;
        this.quick.add(workspaceId, -1);
      },
      end: () => {
        this.all.add(workspaceId, -1);
        if (storeId) this.stores.add(storeId, -1);
        if (isSlow) this.slow -= 1;
        else this.quick.add(workspaceId, -1);
      },
    };
  }

  /** Stores of which no other job may begin here now: one whose shop is slow, or allows little, must not fill all lanes with what waits for it. */
  fullStores(most: number): string[] {
    return [...this.stores].flatMap(([id, n]) => (n >= most ? [id] : []));
  }

  /** Workspaces that may not have another job begun here now. */
  full(mostQuick: number, mostOfAll: number): string[] {
    return [...this.all].flatMap(([id, n]) => (n >= mostOfAll || this.quick.of(id) >= mostQuick ? [id] : []));
  }
}

/** How often it is looked for what a dead worker left. */
const LEFT_MS = 1_000;

/** A rest that ends by itself, or when something is to be done. */
class Rest {
  wake: () => void = () => {};

  take(ms: number, signal: AbortSignal): Promise<void> {
    return new Promise((resolve) => {
      const end = () => {
        clearTimeout(timer);
        signal.removeEventListener('abort', end);
        this.wake = () => {};
        resolve();
      };
      const timer = setTimeout(end, ms);
      signal.addEventListener('abort', end, { once: true });
      this.wake = end;
    });
  }
}

type Passed = Required<Pick<ClaimLimits, 'passOver' | 'passStores'>>;

/** What was looked for in vain a moment ago: the same, or less of it, is not looked for again before the rest that was taken then is over. */
class InVain {
  private passed: Passed = { passOver: [], passStores: [] };
  private until = Number.NEGATIVE_INFINITY;

  note(passed: Passed, restMs: number): void {
    this.passed = passed;
    this.until = performance.now() + restMs;
  }

  covers({ passOver, passStores }: Passed): boolean {
    return (
      performance.now() < this.until &&
      this.passed.passOver.every((id) => passOver.includes(id)) &&
      this.passed.passStores.every((id) => passStores.includes(id))
    );
  }
}

export interface WorkOptions {
  readonly lanes?: number;
  /** Slow jobs that may run beside the lanes. */
  readonly slowLanes?: number;
  readonly idleMs?: number;
}

/** For so long after a job began, who has little to do looks for the next one more often: one seldom comes alone. */
const SOON_MS = 2_000;
const SOON_IDLE_MS = 40;

/**
 * A worker: `lanes` jobs at once, and slow ones beside them, until `signal` is aborted; what runs then is let finish. No workspace fills all
 * lanes: one is left for the others; and no store more than half of them.
 */
export async function work(
  ctx: Context,
  handlers: { readonly [kind: string]: JobHandler },
  signal: AbortSignal,
  { lanes = 6, slowLanes = 4, idleMs = 150 }: WorkOptions = {},
): Promise<void> {
  const kinds = Object.keys(handlers);
  const queue = new PQueue({ concurrency: lanes });
  const running = new Running();
  const mostQuick = Math.max(1, lanes - 1);
  const mostOfStore = Math.max(2, Math.ceil(lanes / 2));
  const rest = new Rest();
  const widen = () => (queue.concurrency = lanes + Math.min(slowLanes, running.slow));
  // A lane that came free is filled at once.
  queue.on('next', () => rest.wake());

  const run = async (lease: Lease) => {
    const place = running.begin(lease.job);
    const slow = setTimeout(() => {
      place.slow();
      widen();
    }, SLOW_SECONDS * 1000);
    try {
      const ids = { job: lease.job.id, workspace: lease.job.workspaceId };
      await inLogScope(ids, () => runJob(ctx, lease, ownEntry(handlers, lease.job.kind)!));
    } finally {
      clearTimeout(slow);
      place.end();
      widen();
    }
  };

  let lookedForLeft = Number.NEGATIVE_INFINITY;
  let begun = Number.NEGATIVE_INFINITY;
  const vain = new InVain();
  const next = async (restMs: number) => {
    const left = performance.now() - lookedForLeft > LEFT_MS;
    if (left) lookedForLeft = performance.now();
    const passed = { passOver: running.full(mostQuick, mostQuick + 1), passStores: running.fullStores(mostOfStore) };
    if (!left && vain.covers(passed)) return null;
    const lease = await claim(ctx, kinds, { ...passed, left }).catch((error: unknown) => {
      log.warn({ err: error }, 'a job could not be claimed');
      return null;
    });
    if (!lease) vain.note(passed, restMs);
    return lease;
  };
  while (!signal.aborted) {
    const isSoon = queue.pending <= 1 && performance.now() - begun < SOON_MS;
    const restMs = isSoon ? Math.min(idleMs, SOON_IDLE_MS) : idleMs;
    const lease = queue.pending < queue.concurrency ? await next(restMs) : null;
    if (lease) {
      begun = performance.now();
      void queue.add(() => run(lease));
      continue;
    }
    await rest.take(restMs, signal);
  }
  await queue.onIdle();
}
