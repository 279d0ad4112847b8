interface Waiting {
  readonly bytes: number;
  readonly owner: string | null;
  readonly begin: () => void;
}

/**
 * Memory for large work in one process and its children. Whoever draws says how much it will hold at its highest and waits until there is room
 * for it; what is larger than all of it is done alone. In the order of asking, so that a poster is not put off for ever by mugs. An owner who
 * holds room already gets more only where `spare` bytes stay free for the others: four slow files of one leave a place for another's quick one.
 */
export class Room {
  private free: number;
  private readonly waiting: Waiting[] = [];
  private readonly resting = new Set<() => void>();
  /** How many pieces each owner holds. */
  private readonly held = new Map<string, number>();

  constructor(
    readonly bytes: number,
    private readonly spare = 0,
  ) {
    this.free = bytes;
  }

  /** Takes room, for an owner where it is one's own work; the answer gives it back, once. An aborted signal gives up waiting. */
  async take(bytes: number, signal?: AbortSignal, owner: string | null = null): Promise<() => void> {
    await new Promise<void>((begin, give) => {
      const entry = { bytes, owner, begin };
      this.waiting.push(entry);
      signal?.addEventListener(
        'abort',
        () => {
          const at = this.waiting.indexOf(entry);
          if (at < 0) return;
          this.waiting.splice(at, 1);
          give(signal.reason);
          this.letIn();
        },
        { once: true },
      );
      this.letIn();
    });
    let held = true;
    return () => {
      if (!held) return;
      held = false;
      this.free += bytes;
      if (owner !== null) this.count(owner, -1);
      this.letIn();
    };
  }

  /** Names something that holds room while it rests, and can be sent away when another needs it. The answer forgets it. */
  canLeave(leave: () => void): () => void {
    this.resting.add(leave);
    // Somebody may be waiting already.
    queueMicrotask(() => this.letIn());
    return () => this.resting.delete(leave);
  }

  private count(owner: string, by: number): void {
    const n = (this.held.get(owner) ?? 0) + by;
    if (n > 0) this.held.set(owner, n);
    else this.held.delete(owner);
  }

  /** Whether an owner has its share, so that others pass. */
  private hasEnough({ bytes, owner }: Waiting): boolean {
    return owner !== null && this.held.has(owner) && this.free - bytes < this.spare;
  }

  private letIn(): void {
    for (;;) {
      const at = this.waiting.findIndex((entry) => !this.hasEnough(entry));
      const next = this.waiting[at];
      if (!next || (next.bytes > this.free && this.free < this.bytes)) break;
      this.waiting.splice(at, 1);
      this.free -= next.bytes;
      if (next.owner !== null) this.count(next.owner, 1);
      next.begin();
    }
    if (this.waiting.length === 0 || this.resting.size === 0) return;
    const [leave] = this.resting;
    this.resting.delete(leave!);
    leave!();
  }
}
