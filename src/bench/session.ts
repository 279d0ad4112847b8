import type { ProductDocument } from '@/core/document/document';
import {
  applyPatch,
  diff,
  KEPT,
  overlaps,
  touchedPaths,
  type Operation,
  type PatchConflict,
} from '@/core/document/patch';

/** How patches reach the server. `send` gives the new revision, or what stands in the way. */
export interface Transport {
  send(revision: number, operations: readonly Operation[], label: string): Promise<SendResult>;
  load(): Promise<{ revision: number; document: ProductDocument }>;
}

export type SendResult =
  | { readonly kind: 'saved'; readonly revision: number; readonly document: ProductDocument }
  | { readonly kind: 'conflict'; readonly conflicts: readonly PatchConflict[]; readonly by: string | null }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'offline' };

export type SaveState = 'saved' | 'saving' | 'offline' | 'conflict' | 'refused';

interface HistoryEntry {
  readonly label: string;
  readonly forward: readonly Operation[];
  readonly back: readonly Operation[];
  /** Edits with the same key in a row (typing in one field, dragging one layer) are one step. */
  readonly key: string | null;
}

export interface SessionState {
  readonly document: ProductDocument;
  readonly save: SaveState;
  readonly savedAt: number | null;
  readonly conflicts: readonly PatchConflict[];
  readonly conflictBy: string | null;
  readonly message: string | null;
  readonly canUndo: string | null;
  readonly canRedo: string | null;
  readonly revision: number;
}

/** Time in which edits under one key are one step of undo, ms. */
const ONE_STEP_MS = 2500;

/**
 * One product being edited in one browser tab. Edits apply at once and are sent as patches against the revision that the server has
 * confirmed; what others do meanwhile is laid under them. Nothing is dropped without being asked for.
 */
export class BenchSession {
  private base: ProductDocument;
  private revision: number;
  private pending: Operation[] = [];
  private inFlight: Operation[] = [];
  private undoStack: HistoryEntry[] = [];
  private redoStack: HistoryEntry[] = [];
  private lastEditAt = 0;
  private state: SessionState;
  private readonly listeners = new Set<() => void>();
  private flushing: Promise<void> | null = null;
  private labels: string[] = [];

  constructor(
    private readonly transport: Transport,
    start: { revision: number; document: ProductDocument },
    private readonly now: () => number,
  ) {
    this.base = start.document;
    this.revision = start.revision;
    this.state = {
      document: start.document,
      save: 'saved',
      savedAt: null,
      conflicts: [],
      conflictBy: null,
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

  private set(part: Partial<SessionState>): void {
    this.state = {
      ...this.state,
      ...part,
      canUndo: this.undoStack.at(-1)?.label ?? null,
      canRedo: this.redoStack.at(-1)?.label ?? null,
      revision: this.revision,
    };
    for (const listener of this.listeners) listener();
  }

  /** Whether something is not on the server yet. */
  get dirty(): boolean {
    return this.pending.length > 0 || this.inFlight.length > 0;
  }

  /** Changes the document to `next`; the difference is one step of undo under `label`. Edits with the same `key` shortly after each other join. */
  edit(label: string, change: (document: ProductDocument) => ProductDocument, key: string | null = null): void {
    const before = this.state.document;
    const after = change(before);
    const forward = diff(before, after);
    if (forward.length === 0) return;
    const back = diff(after, before);
    const last = this.undoStack.at(-1);
    const at = this.now();
    if (key !== null && last?.key === key && at - this.lastEditAt < ONE_STEP_MS) {
      this.undoStack[this.undoStack.length - 1] = {
        label,
        key,
        forward: [...last.forward, ...forward],
        back: [...back, ...last.back],
      };
    } else this.undoStack.push({ label, key, forward, back });
    this.lastEditAt = at;
    this.redoStack = [];
    this.take(label, forward, after);
  }

  undo(): boolean {
    return this.step(this.undoStack, this.redoStack, 'Undo', 'back');
  }

  redo(): boolean {
    return this.step(this.redoStack, this.undoStack, 'Redo', 'forward');
  }

  private step(from: HistoryEntry[], to: HistoryEntry[], word: string, way: 'forward' | 'back'): boolean {
    const entry = from.at(-1);
    if (!entry) return false;
    try {
      const after = applyPatch(this.state.document, entry[way], KEPT);
      from.pop();
      to.push({ ...entry, key: null });
      this.take(`${word} ${entry.label}`, entry[way], after);
      return true;
    } catch {
      // Someone else took away what this step would change.
      from.pop();
      this.set({
        message: `“${entry.label}” can no longer be undone here: someone else has changed the same part since.`,
      });
      return false;
    }
  }

  private take(label: string, operations: readonly Operation[], document: ProductDocument): void {
    this.pending.push(...operations);
    this.labels.push(label);
    this.set({ document, save: this.state.save === 'conflict' ? 'conflict' : 'saving', message: null });
  }

  /** Sends what is pending, one patch at a time, until all is confirmed or something stands in the way. */
  flush(): Promise<void> {
    this.flushing ??= this.sendAll().finally(() => (this.flushing = null));
    return this.flushing;
  }

  private async sendAll(): Promise<void> {
    while (this.pending.length > 0 && this.state.save !== 'conflict') {
      this.inFlight = this.pending;
      this.pending = [];
      const label = this.labels.at(-1) ?? '';
      this.labels = [];
      const result = await this.transport
        .send(this.revision, this.inFlight, label)
        .catch((): SendResult => ({ kind: 'offline' }));
      if (result.kind === 'saved') {
        this.inFlight = [];
        this.rebase(result.revision, result.document);
        this.set({ save: this.pending.length > 0 ? 'saving' : 'saved', savedAt: this.now() });
        continue;
      }
      this.pending = [...this.inFlight, ...this.pending];
      this.inFlight = [];
      if (result.kind === 'conflict')
        this.set({ save: 'conflict', conflicts: result.conflicts, conflictBy: result.by });
      else if (result.kind === 'offline')
        this.set({
          save: 'offline',
          message: 'The server does not answer. Your changes are kept here and sent again.',
        });
      else {
        // What the server cannot take must not block all that follows: it is taken back, and said.
        this.pending = [];
        this.undoStack = [];
        this.redoStack = [];
        const fresh = await this.transport.load();
        this.base = fresh.document;
        this.revision = fresh.revision;
        this.set({
          document: fresh.document,
          save: 'refused',
          message: `${result.message} The change was taken back.`,
        });
      }
      return;
    }
  }

  /** Lays what is not yet sent over a newer document from the server. Operations that no longer fit are left out, and said. */
  private rebase(revision: number, document: ProductDocument): void {
    this.base = document;
    this.revision = revision;
    let next = document;
    const kept: Operation[] = [];
    let dropped = 0;
    for (const operation of this.pending) {
      try {
        next = applyPatch(next, [operation], KEPT);
        kept.push(operation);
      } catch {
        dropped += 1;
      }
    }
    this.pending = kept;
    this.set({
      document: next,
      ...(dropped > 0
        ? { message: 'Part of your last change no longer fits: someone else took away what it changed.' }
        : {}),
    });
  }

  /** Takes in that the product has a newer revision, made elsewhere. */
  async noticeRevision(revision: number): Promise<void> {
    if (revision <= this.revision || this.flushing || this.state.save === 'conflict') return;
    if (this.pending.length > 0) return this.flush();
    const fresh = await this.transport.load();
    if (fresh.revision > this.revision && !this.flushing) this.rebase(fresh.revision, fresh.document);
  }

  /** Ends a conflict: `mine` writes this tab's values over the others', `theirs` gives up what collides and keeps the rest. */
  async resolve(choice: 'mine' | 'theirs'): Promise<void> {
    const { conflicts } = this.state;
    const fresh = await this.transport.load();
    if (choice === 'theirs') {
      this.pending = this.pending.filter(
        (operation) =>
          !conflicts.some((conflict) => touchedPaths([operation]).some((path) => overlaps(path, conflict.path))),
      );
      this.undoStack = [];
      this.redoStack = [];
    }
    this.rebase(fresh.revision, fresh.document);
    this.set({ save: this.pending.length > 0 ? 'saving' : 'saved', conflicts: [], conflictBy: null });
    await this.flush();
  }
}
