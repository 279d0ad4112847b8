import type { ProductDocument } from '@/core/document/document';
import type { Side } from '@/core/document/merge';
import { applyPatch, diff, KEPT } from '@/core/document/patch';
import { sameJson } from '@/core/json/bounds';
import type {
  Batch,
  Hindrance,
  KeptSession,
  LoadResult,
  Newest,
  SendResult,
  SessionMeans,
  SessionState,
  Transport,
} from './session-types';
import { after, lay, turn, type Entry, type Step } from './steps';

/** Time in which edits under one key are one step of undo, ms. */
const ONE_STEP_MS = 2500;
/** Time from an edit to its being sent: typing goes in few patches. */
const FLUSH_MS = 350;
const FIRST_RETRY_MS = 1000;
const LAST_RETRY_MS = 30_000;
/** Times in a row that a patch is laid over what others did before it waits. */
const MAX_STALE = 5;
/** Steps that can be undone. */
const MAX_UNDO = 200;

/**
 * One product being edited in one browser tab. Edits apply at once, are kept in the browser until they are confirmed, and are sent as patches
 * against the revision that they were made on; what others do meanwhile is laid under them. Nothing is dropped without being asked for: what
 * collides is asked about, and what the server cannot take is named, alone.
 */
export class BenchSession {
  /** What the unconfirmed steps were made on. */
  private base: ProductDocument;
  private revision: number | null;
  private batch: Batch | null = null;
  private pending: readonly Step[] = [];
  private undoStack: Entry[] = [];
  private redoStack: Entry[] = [];
  /** The step that typing goes on in. */
  private open: { key: string; at: number; entryStart: ProductDocument; stepStart: ProductDocument } | null = null;
  /** Steps that are sent one by one, to find the one that the server cannot take. */
  private singly = 0;
  private tries = 0;
  private stale = 0;
  private noticed = 0;
  /** The newest that the steps collide with. */
  private met: Newest | null = null;
  private sending: Promise<void> | null = null;
  private callOff: (() => void) | null = null;
  private closed = false;
  private state: SessionState;
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly transport: Transport,
    start: Newest,
    private readonly means: SessionMeans,
  ) {
    this.base = start.document;
    this.revision = start.revision;
    this.noticed = start.revision;
    this.state = {
      document: start.document,
      save: 'saved',
      savedAt: null,
      collisions: [],
      collisionBy: null,
      notKept: [],
      question: null,
      message: null,
      canUndo: null,
      canRedo: null,
      revision: start.revision,
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly getState = (): SessionState => this.state;

  /** Whether something is not on the server yet. */
  get unsaved(): boolean {
    return this.batch !== null || this.pending.length > 0;
  }

  private get steps(): readonly Step[] {
    return [...(this.batch?.steps ?? []), ...this.pending];
  }

  private set(part: Partial<SessionState>): void {
    this.state = {
      ...this.state,
      ...part,
      canUndo: this.undoStack.at(-1)?.label ?? null,
      canRedo: this.redoStack.at(-1)?.label ?? null,
      revision: this.revision ?? this.state.revision,
    };
    this.means.keep({
      format: 1,
      title: this.state.document.words.base.title,
      base: this.base,
      revision: this.revision,
      batch: this.batch,
      pending: this.pending,
      undo: this.undoStack,
      redo: this.redoStack,
    });
    for (const listener of this.listeners) listener();
  }

  /** Goes on where a page that is gone stopped. What is edited here already stays. Throws, and changes nothing, when what was kept does not fit itself. */
  restore(kept: KeptSession): void {
    const theirs = after(kept.base, [...(kept.batch?.steps ?? []), ...kept.pending]);
    const [start, own, ownUndo] = [this.base, this.steps, this.undoStack];
    if (!kept.batch && kept.pending.length === 0) {
      // All of it was saved: what the page was loaded with is as new or newer. What can be undone is what is left of it.
      this.undoStack = [...kept.undo, ...ownUndo];
      this.redoStack = [...kept.redo];
      return this.set({});
    }
    this.base = kept.base;
    this.revision = kept.revision;
    this.batch = kept.batch;
    this.pending = kept.pending;
    this.undoStack = [...kept.undo, ...ownUndo];
    this.redoStack = [...kept.redo];
    const laid = lay(start, theirs, own, 'yours');
    this.pending = [...this.pending, ...laid.steps];
    this.open = null;
    this.set({ document: laid.document, save: this.unsaved ? 'saving' : 'saved' });
    if (this.unsaved) this.sendIn(0);
  }

  /**
   * Takes in what another page that is gone left unsent, made on a document of its own. Where it collides with what is here, what is here stays,
   * and the edit is named.
   */
  takeIn(kept: KeptSession): void {
    const steps = [...(kept.batch?.steps ?? []), ...kept.pending];
    const laid = lay(kept.base, this.state.document, steps);
    const labels = [...new Set(laid.collisions.map(({ label }) => label))];
    this.pending = [...this.pending, ...laid.steps];
    this.open = null;
    const why = 'It was typed in a tab that is closed, and the same was changed since.';
    this.set({
      document: laid.document,
      save: this.unsaved ? 'saving' : this.state.save,
      notKept: [...this.state.notKept, ...labels.map((label) => ({ label, why }))],
    });
    if (this.unsaved) this.sendIn(0);
  }

  /** Changes the document to `next`; the difference is one step of undo under `label`. Edits with the same `key` shortly after each other join. */
  edit(label: string, change: (document: ProductDocument) => ProductDocument, key: string | null = null): void {
    const before = this.state.document;
    const next = change(before);
    if (diff(before, next).length === 0) return;
    const at = this.means.now();
    const joins = this.open !== null && this.open.key === key && at - this.open.at < ONE_STEP_MS;
    if (joins) this.open!.at = at;
    else {
      this.open = key === null ? null : { key, at, entryStart: before, stepStart: before };
      this.undoStack.push({ id: this.means.newId(), label, forward: [], back: [] });
      if (this.undoStack.length > MAX_UNDO) this.undoStack.shift();
    }
    const last = this.undoStack.at(-1)!;
    const start = joins ? this.open!.entryStart : before;
    const entry = { id: last.id, label, forward: diff(start, next), back: diff(next, start) };
    // What was typed and taken away again is nothing to undo.
    this.undoStack.splice(-1, 1, ...(entry.forward.length > 0 ? [entry] : []));
    this.redoStack = [];
    this.take(last.id, label, joins, next);
    if (entry.forward.length === 0) this.open = null;
  }

  /** Adds a step to what is to be sent, or lengthens the last one. */
  private take(entryId: string, label: string, joins: boolean, next: ProductDocument): void {
    const last = this.pending.at(-1);
    if (joins && last?.entryId === entryId)
      this.pending = [
        ...this.pending.slice(0, -1),
        { ...last, label, forward: diff(this.open!.stepStart, next) },
      ].filter((step) => step.forward.length > 0);
    else {
      const before = this.state.document;
      if (this.open) this.open.stepStart = before;
      this.pending = [...this.pending, { id: this.means.newId(), entryId, label, forward: diff(before, next) }];
    }
    const { save } = this.state;
    this.set({
      document: next,
      save: save === 'saved' || save === 'saving' ? 'saving' : save,
      message: null,
      question: null,
    });
    if (save !== 'offline') this.sendIn(FLUSH_MS);
  }

  /** Undoes the last step. Where somebody else has set the same since, it asks first, unless told to go on. */
  undo(sure = false): boolean {
    return this.turn('undo', this.undoStack, this.redoStack, sure);
  }

  redo(sure = false): boolean {
    return this.turn('redo', this.redoStack, this.undoStack, sure);
  }

  private turn(way: 'undo' | 'redo', from: Entry[], to: Entry[], sure: boolean): boolean {
    const entry = from.at(-1);
    if (!entry || this.state.save === 'conflict') return false;
    this.open = null;
    const turned = turn(this.state.document, entry, way === 'undo' ? 'back' : 'forward');
    if (turned.document === null) {
      // Someone else took away what this step would change.
      from.pop();
      const message = `“${entry.label}” can no longer be ${way === 'undo' ? 'undone' : 'done again'} here: someone else has changed the same part since.`;
      this.set({ message, question: null });
      return false;
    }
    if (turned.others.length > 0 && !sure) {
      this.set({ question: { way, label: entry.label, others: turned.others } });
      return false;
    }
    from.pop();
    to.push(entry);
    this.take(this.means.newId(), `${way === 'undo' ? 'Undo' : 'Redo'} ${entry.label}`, false, turned.document);
    return true;
  }

  /** Answers whether to undo or redo over what somebody else has set. */
  answer(goOn: boolean): void {
    const { question } = this.state;
    if (question === null) return;
    if (goOn) this[question.way](true);
    else this.set({ question: null });
  }

  /** What could not be kept was read. */
  forgetNotKept(): void {
    this.set({ notKept: [] });
  }

  private sendIn(ms: number): void {
    this.callOff?.();
    this.callOff = this.closed ? null : this.means.later(ms, () => void this.flush());
  }

  /** The page goes: what is not confirmed is sent once more, and kept. */
  async close(): Promise<void> {
    this.closed = true;
    this.callOff?.();
    if (this.unsaved) await this.flush();
  }

  /** Something that stood in the way may be gone: the network is back, somebody signed in. */
  again(): void {
    this.tries = 0;
    if (this.unsaved || this.noticed > (this.revision ?? 0)) void this.flush();
  }

  /** Sends what is pending, one patch at a time, until all is confirmed or something stands in the way; then takes in what others did. */
  flush(): Promise<void> {
    this.callOff?.();
    this.callOff = null;
    this.sending ??= this.sendAll().finally(() => (this.sending = null));
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    while (this.state.save !== 'conflict') {
      if (!this.unsaved) {
        const { noticed } = this;
        if (noticed <= (this.revision ?? 0) || !(await this.takeNewest(null))) break;
        // What was noticed is taken in, whatever number it had.
        if (this.noticed === noticed) this.noticed = this.revision ?? 0;
        continue;
      }
      if (!this.batch && this.revision === null) {
        if (!(await this.takeNewest(null))) break;
        continue;
      }
      if (!(await this.sendOne())) break;
    }
    if (!this.unsaved && this.state.save === 'saving') this.set({ save: 'saved' });
  }

  /** Sends one patch. False when something stands in the way. */
  private async sendOne(): Promise<boolean> {
    const batch = this.batch ?? this.nextBatch();
    const label = [...new Set(batch.steps.map((step) => step.label))].join(', ');
    const operations = batch.steps.flatMap((step) => step.forward);
    const result = await this.transport
      .send({ revision: batch.revision, operations, label, key: batch.key })
      .catch((): SendResult => ({ kind: 'offline' }));
    switch (result.kind) {
      case 'saved':
        this.tries = 0;
        this.stale = 0;
        this.singly = Math.max(0, this.singly - 1);
        this.confirm(result);
        return true;
      case 'stale':
        this.stale += 1;
        if (this.stale <= MAX_STALE) return this.takeNewest(result.by);
        // Whoever else writes all the time, or whatever is wrong there: not without end.
        this.stale = 0;
        this.standStill({ kind: 'offline' });
        return false;
      case 'refused':
        this.tries = 0;
        this.findRefused(batch, result.message);
        return true;
      default:
        this.standStill(result);
        return false;
    }
  }

  private nextBatch(): Batch {
    const count = this.singly > 0 ? 1 : this.pending.length;
    const batch = { key: this.means.newId(), revision: this.revision!, steps: this.pending.slice(0, count) };
    this.batch = batch;
    this.pending = this.pending.slice(count);
    // What is typed from now on is another patch, unless its step is still to be sent.
    if (this.open && this.pending.length === 0) this.open.stepStart = this.state.document;
    this.set({});
    return batch;
  }

  private standStill(why: Hindrance): void {
    this.set({ save: why.kind });
    if (why.kind !== 'offline') return;
    const growing = Math.min(LAST_RETRY_MS, FIRST_RETRY_MS * 2 ** this.tries);
    this.tries += 1;
    this.sendIn(Math.max(why.retryAfterMs ?? 0, growing * (0.75 + this.means.chance() / 2)));
  }

  /** The batch is in: the document that came back holds it and what others did. */
  private confirm(saved: Newest): void {
    const mine = after(this.base, this.batch!.steps);
    this.batch = null;
    if (sameJson(mine, saved.document)) {
      this.base = saved.document;
      this.revision = saved.revision;
      this.set({ save: this.pending.length > 0 ? 'saving' : 'saved', savedAt: this.means.now() });
    } else {
      this.base = mine;
      this.revision = null;
      this.set({ savedAt: this.means.now() });
      this.layOver(saved, null);
    }
  }

  /** Loads the newest and lays over it what is not sent. False when something stands in the way. */
  private async takeNewest(by: string | null): Promise<boolean> {
    const loaded = await this.transport.load().catch((): LoadResult => ({ kind: 'offline' }));
    if (loaded.kind !== 'loaded') {
      this.standStill(loaded);
      return false;
    }
    this.tries = 0;
    return this.layOver(loaded, by);
  }

  /** False when it collides: then it is asked. */
  private layOver(newest: Newest, by: string | null): boolean {
    const laid = lay(this.base, newest.document, this.steps);
    if (laid.collisions.length > 0) {
      this.met = newest;
      this.set({ save: 'conflict', collisions: laid.collisions, collisionBy: by });
      return false;
    }
    this.moveTo(newest, laid.steps, laid.document);
    return true;
  }

  private moveTo(newest: Newest, steps: readonly Step[], document: ProductDocument): void {
    this.base = newest.document;
    this.revision = newest.revision;
    this.batch = null;
    this.pending = steps;
    this.open = null;
    this.met = null;
    this.set({ document, save: steps.length > 0 ? 'saving' : 'saved', collisions: [], collisionBy: null });
  }

  /** Finds the step that the server cannot take: all of the patch are sent singly, and the one that is refused is left out and named. */
  private findRefused(batch: Batch, why: string): void {
    if (batch.steps.length > 1) {
      this.singly = batch.steps.length;
      this.pending = [...batch.steps, ...this.pending];
      this.batch = null;
      this.set({});
      return;
    }
    const [refused] = batch.steps;
    this.singly = Math.max(0, this.singly - 1);
    const laid = lay(this.base, this.base, this.steps, 'theirs', refused!.id);
    const gone = new Set([
      refused!.entryId,
      ...this.steps.filter(({ id }) => laid.steps.every((kept) => kept.id !== id)).map(({ entryId }) => entryId),
    ]);
    this.batch = null;
    this.pending = laid.steps;
    this.open = null;
    this.undoStack = this.undoStack.filter(({ id }) => !gone.has(id));
    const needed = `It needs “${refused!.label}”, which could not be kept.`;
    this.set({
      document: laid.document,
      save: laid.steps.length > 0 ? 'saving' : 'saved',
      notKept: [
        ...this.state.notKept,
        { label: refused!.label, why },
        ...laid.lost.map((label) => ({ label, why: needed })),
      ],
    });
  }

  /** Takes in that the product has a newer revision, made elsewhere. */
  async noticeRevision(revision: number): Promise<void> {
    if (!Number.isSafeInteger(revision)) throw new RangeError(`A revision is a whole number, not ${revision}.`);
    this.noticed = Math.max(this.noticed, revision);
    if (this.noticed > (this.revision ?? 0) && this.state.save !== 'conflict') await this.flush();
  }

  /** Events may have been missed: looks whether somebody else was there. */
  async lookAgain(): Promise<void> {
    const loaded = await this.transport.load().catch((): LoadResult => ({ kind: 'offline' }));
    if (loaded.kind === 'loaded') await this.noticeRevision(loaded.revision);
  }

  /** Ends a collision: `yours` writes this tab's values over the others', `theirs` gives up what collides and keeps the rest. */
  async resolve(choice: Side): Promise<void> {
    if (!this.met) return;
    const laid = lay(this.base, this.met.document, this.steps, choice);
    this.renewEntries(laid.steps, this.met.document);
    this.moveTo(this.met, laid.steps, laid.document);
    await this.flush();
  }

  /** Undo goes back to what is there now, not to what was there before the collision; an edit that was given up is nothing to undo. */
  private renewEntries(steps: readonly Step[], start: ProductDocument): void {
    const had = new Set(this.steps.map(({ entryId }) => entryId));
    const renewed = new Map<string, Entry[]>();
    let before = start;
    for (const { entryId, label, forward } of steps) {
      const next = applyPatch(before, forward, KEPT);
      const entry = { id: entryId, label, forward, back: diff(next, before) };
      renewed.set(entryId, [...(renewed.get(entryId) ?? []), entry]);
      before = next;
    }
    this.undoStack = this.undoStack.flatMap((entry) => {
      if (!had.has(entry.id)) return [entry];
      const now = renewed.get(entry.id) ?? [];
      // One that was sent in several parts stays as it was; whether it can be undone is looked at then.
      return now.length > 1 ? [entry] : now;
    });
  }
}
