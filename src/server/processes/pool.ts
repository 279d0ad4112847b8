import { spawn, type ChildProcess } from 'node:child_process';
import { TypicaError, type ErrorKind } from '@/core/errors';
import { log } from '../log';
import { FairQueue } from './fair-queue';
import { makeWay, residentMb, type Ended } from './limits';
import type { Room } from './room';

/** What a program of a pool answers to an order. */
export type Answer<R> =
  | { readonly id: number; readonly result: R }
  | {
      readonly id: number;
      readonly refusal: {
        readonly kind: ErrorKind;
        readonly code: string;
        readonly message: string;
        readonly fields: Record<string, unknown>;
      };
    }
  | { readonly id: number; readonly failure: string };

export interface Command {
  readonly command: string;
  readonly args: readonly string[];
  readonly env: Readonly<Record<string, string | undefined>>;
}

/** Where a process of a pool reads and writes, made for it and taken away with it. */
export interface PoolFolder<O> {
  readonly command: Command;
  /** Makes what an order needs visible to the process; the answer takes it away. */
  lay?(order: O): Promise<() => Promise<void>>;
  clear(): Promise<void>;
}

export interface PoolOptions<O> {
  readonly name: string;
  open(): Promise<PoolFolder<O>>;
  /** Processes at most, and orders that each works on at a time. */
  readonly size: number;
  readonly inFlight: number;
  /** Longest that one order may take, waiting not counted. */
  readonly seconds: number;
  readonly memoryMb: number;
  readonly room?: Room;
  /** Of the room, what a process takes while it lives, and what an order takes beside, in bytes. */
  readonly holdsMb?: number;
  bytesOf?(order: O): number;
  /** A process that nobody has asked for this long goes, and its memory with it. */
  readonly idleMs: number;
  /** Orders that may wait, of one owner and of all. */
  readonly mostWaiting?: number;
  tooSlow(seconds: number): TypicaError;
  tooHeavy(memoryMb: number): TypicaError;
}

interface Waiting<O, R> {
  readonly owner: string;
  readonly order: O;
  readonly done: (result: R) => void;
  readonly failed: (error: unknown) => void;
  readonly signal: AbortSignal | undefined;
  readonly seconds: number;
  /** How often it was lost with a process that another order ended. */
  lost: number;
}

interface Running<O, R> {
  readonly waiting: Waiting<O, R>;
  readonly since: number;
  readonly timer: NodeJS.Timeout;
  readonly takeAway: () => Promise<void>;
}

interface Member<O, R> {
  readonly folder: PoolFolder<O>;
  readonly child: ChildProcess;
  readonly running: Map<number, Running<O, R>>;
  /** Orders that are being laid out for it. */
  coming: number;
  looking: NodeJS.Timeout;
  /** Most that it held so far. */
  peakMb: number;
  idle: NodeJS.Timeout | null;
  stays: (() => void) | null;
  release: () => void;
  ended: { readonly why: Ended; readonly id: number | null } | null;
  gone: boolean;
}

const PATIENCE_MS = 5000;
const busy = () =>
  new TypicaError('unavailable', 'studio-busy', 'There is too much to do just now; try again in a minute.', {
    retryAfterMs: 30_000,
  });

const crashed = () =>
  new TypicaError(
    'unavailable',
    'studio-crashed',
    'Drawing this ended unexpectedly; try again. It is written to the log.',
  );

/**
 * Processes that do one kind of work, each order under limits of time and memory. Orders are given out in turn by owner, and no owner ever
 * holds the last place. A process in which native code hangs is killed; orders that were lost with it and did no harm are done again.
 */
export class ProcessPool<O, R> {
  private readonly queue = new FairQueue<Waiting<O, R>>();
  private readonly members = new Set<Member<O, R>>();
  private readonly held = new Map<string, number>();
  private opening = 0;
  private last = 0;

  constructor(private readonly options: PoolOptions<O>) {}

  /** Asks for something. `owner` is the workspace; an aborted signal takes it out of the queue, and ends a process that works on it alone. */
  ask(order: O, { owner, signal, seconds }: { owner: string; signal?: AbortSignal; seconds?: number }): Promise<R> {
    const most = this.options.mostWaiting ?? 500;
    return new Promise<R>((done, failed) => {
      if (signal?.aborted) return failed(signal.reason);
      if (this.queue.size >= 4 * most || this.queue.sizeOf(owner) >= most) return failed(busy());
      const waiting: Waiting<O, R> = {
        owner,
        order,
        done,
        failed,
        signal,
        seconds: seconds ?? this.options.seconds,
        lost: 0,
      };
      signal?.addEventListener('abort', () => this.giveUp(waiting), { once: true });
      this.queue.push(owner, waiting);
      this.begin();
    });
  }

  /** Ends all processes; for tests and for a process that stops. */
  async close(): Promise<void> {
    for (const member of [...this.members]) member.child.kill('SIGKILL');
    while (this.members.size > 0) await new Promise((next) => setTimeout(next, 10));
  }

  private get places(): number {
    return this.options.size * this.options.inFlight;
  }

  private readonly mayHold = (owner: string): boolean => {
    const most = this.places > 1 ? this.places - 1 : 1;
    return (this.held.get(owner) ?? 0) < most;
  };

  private begin(): void {
    while (this.queue.size > 0) {
      const member = [...this.members].find(
        (one) => !one.gone && !one.ended && one.running.size + one.coming < this.options.inFlight,
      );
      if (!member) {
        if (this.members.size + this.opening < this.options.size) void this.open();
        return;
      }
      const next = this.queue.next(this.mayHold);
      if (!next) return;
      this.held.set(next.owner, (this.held.get(next.owner) ?? 0) + 1);
      member.coming += 1;
      void this.give(member, next.item);
    }
  }

  private async open(): Promise<void> {
    this.opening += 1;
    try {
      const { room, holdsMb = 0 } = this.options;
      const release = room ? await room.take(holdsMb * 1024 * 1024) : () => undefined;
      const folder = await this.options.open().catch((error: unknown) => {
        release();
        throw error;
      });
      this.members.add(this.start(folder, release));
    } catch (error) {
      log.error({ err: error, pool: this.options.name }, 'a process could not be started');
      // Nobody waits for what cannot come.
      for (let next = this.queue.next(() => true); next; next = this.queue.next(() => true)) next.item.failed(busy());
    } finally {
      this.opening -= 1;
    }
    this.begin();
  }

  private start(folder: PoolFolder<O>, release: () => void): Member<O, R> {
    const { command, args, env } = folder.command;
    const child = spawn(command, [...args], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: env as NodeJS.ProcessEnv,
      serialization: 'advanced',
    });
    const member: Member<O, R> = {
      folder,
      child,
      running: new Map(),
      coming: 0,
      looking: setInterval(() => {
        const mb = child.pid ? residentMb(child.pid) : 0;
        member.peakMb = Math.max(member.peakMb, mb);
        if (mb > this.options.memoryMb) this.end(member, 'memory', null);
      }, 200),
      peakMb: 0,
      idle: null,
      stays: null,
      release,
      ended: null,
      gone: false,
    };
    member.looking.unref();
    child.on('message', (answer) => this.answered(member, answer as Answer<R>));
    child.on('error', (error) => log.error({ err: error, pool: this.options.name }, 'a process failed'));
    child.once('exit', (code, signal) => {
      if (!member.ended) log.error({ code, signal, pool: this.options.name }, 'a process ended by itself');
      this.exited(member);
    });
    child.once('error', () => this.exited(member));
    return member;
  }

  private async give(member: Member<O, R>, waiting: Waiting<O, R>): Promise<void> {
    if (member.idle) clearTimeout(member.idle);
    member.idle = null;
    member.stays?.();
    member.stays = null;
    member.child.ref();
    member.child.channel?.ref();
    const id = (this.last += 1);
    let takeAway: () => Promise<void> = async () => undefined;
    try {
      takeAway = await this.prepare(member, waiting);
      if (member.gone || member.ended) {
        await takeAway();
        return this.again(waiting);
      }
      const late = setTimeout(() => this.end(member, 'time', id), waiting.seconds * 1000);
      if (this.options.inFlight === 1)
        setTimeout(() => member.running.has(id) && member.child.pid && makeWay(member.child.pid), PATIENCE_MS).unref();
      member.running.set(id, { waiting, since: Date.now(), timer: late, takeAway });
      member.child.send({ id, order: waiting.order } as never, (error) => {
        if (error) this.end(member, 'memory', null);
      });
    } catch (error) {
      await takeAway();
      this.free(waiting.owner);
      waiting.failed(error);
    } finally {
      member.coming -= 1;
    }
    this.rest(member);
  }

  /** Room for an order, and its files where the process sees them; the answer takes both away. */
  private async prepare({ folder }: Member<O, R>, { order, signal }: Waiting<O, R>): Promise<() => Promise<void>> {
    const { room, bytesOf } = this.options;
    const release = room && bytesOf ? await room.take(bytesOf(order), signal) : () => undefined;
    try {
      const clear = await folder.lay?.(order);
      return async () => {
        release();
        await clear?.();
      };
    } catch (error) {
      release();
      throw error;
    }
  }

  private answered(member: Member<O, R>, answer: Answer<R>): void {
    const running = member.running.get(answer.id);
    if (!running) return;
    this.settle(member, answer.id);
    const { done, failed } = running.waiting;
    if ('result' in answer) done(answer.result);
    else if ('refusal' in answer) {
      const { kind, code, message, fields } = answer.refusal;
      failed(new TypicaError(kind, code, message, fields));
    } else failed(new Error(answer.failure));
    // What has worked long made way for all others, and cannot take its priority back.
    if (this.options.inFlight === 1 && Date.now() - running.since > PATIENCE_MS) this.end(member, 'time', null);
    this.rest(member);
    this.begin();
  }

  private settle(member: Member<O, R>, id: number): void {
    const running = member.running.get(id);
    if (!running) return;
    member.running.delete(id);
    clearTimeout(running.timer);
    this.free(running.waiting.owner);
    void running.takeAway();
  }

  private free(owner: string): void {
    const left = (this.held.get(owner) ?? 1) - 1;
    if (left > 0) this.held.set(owner, left);
    else this.held.delete(owner);
  }

  /** Kills a process; `id` is the order for which it is. */
  private end(member: Member<O, R>, why: Ended, id: number | null): void {
    if (member.ended) return;
    if (id !== null || why === 'memory')
      log.warn({ pool: this.options.name, why, orders: member.running.size }, 'a process is ended for what it takes');
    member.ended = { why, id };
    member.child.kill('SIGKILL');
  }

  private exited(member: Member<O, R>): void {
    if (member.gone) return;
    member.gone = true;
    log.debug({ pool: this.options.name, peakMb: Math.round(member.peakMb) }, 'a process has gone');
    clearInterval(member.looking);
    if (member.idle) clearTimeout(member.idle);
    member.stays?.();
    this.members.delete(member);
    member.release();
    void member.folder.clear();
    const alone = member.running.size === 1;
    for (const [id, { waiting }] of [...member.running]) {
      this.settle(member, id);
      if (waiting.signal?.aborted) waiting.failed(waiting.signal.reason);
      else if (member.ended?.why === 'time' && (member.ended.id === id || alone))
        waiting.failed(this.options.tooSlow(waiting.seconds));
      else if (!member.ended && (alone || waiting.lost > 0)) waiting.failed(crashed());
      else if (alone || waiting.lost > 0) waiting.failed(this.options.tooHeavy(this.options.memoryMb));
      else this.again(waiting, true);
    }
    this.begin();
  }

  /** Back to the front of the queue: it was lost by no fault of its own. */
  private again(waiting: Waiting<O, R>, counted = false): void {
    if (counted) waiting.lost += 1;
    else this.free(waiting.owner);
    this.queue.putBack(waiting.owner, waiting);
    this.begin();
  }

  private giveUp(waiting: Waiting<O, R>): void {
    if (this.queue.remove(waiting.owner, waiting)) return waiting.failed(waiting.signal!.reason);
    if (this.options.inFlight > 1) return;
    for (const member of this.members)
      for (const [id, running] of member.running) if (running.waiting === waiting) this.end(member, 'time', id);
  }

  private rest(member: Member<O, R>): void {
    if (member.gone || member.ended || member.running.size + member.coming > 0 || member.idle) return;
    // A process with nothing else to do may end while its helpers rest.
    member.child.unref();
    member.child.channel?.unref();
    const leave = () => {
      if (member.running.size + member.coming === 0) this.end(member, 'time', null);
    };
    member.stays = this.options.room?.canLeave(leave) ?? null;
    member.idle = setTimeout(leave, this.options.idleMs);
    member.idle.unref();
  }
}
