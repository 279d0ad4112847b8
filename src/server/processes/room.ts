/**
 * Memory for large work in one process and its children. Whoever draws says how much it will hold at its highest and waits until there is room
 * for it; what is larger than all of it is done alone. In the order of asking, so that a poster is not put off for ever by mugs.
 */
export class Room {
  private free: number;
  private readonly waiting: { readonly bytes: number; readonly begin: () => void }[] = [];
  private readonly resting = new Set<() => void>();

  constructor(readonly bytes: number) {
    this.free = bytes;
  }

  /** Takes room; the answer gives it back, once. An aborted signal gives up waiting. */
  async take(bytes: number, signal?: AbortSignal): Promise<() => void> {
    await new Promise<void>((begin, give) => {
      const entry = { bytes, begin };
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

  private letIn(): void {
    while (this.waiting.length > 0) {
      const next = this.waiting[0]!;
      if (next.bytes > this.free && this.free < this.bytes) break;
      this.waiting.shift();
      this.free -= next.bytes;
      next.begin();
    }
    if (this.waiting.length === 0 || this.resting.size === 0) return;
    const [leave] = this.resting;
    this.resting.delete(leave!);
    leave!();
  }
}
