/** Waiting work of several owners, given out in turn, so that who asks for much does not keep out who asks for little. */
export class FairQueue<T> {
  /** Owners in the order of their turns; a Map keeps it. */
  private readonly byOwner = new Map<string, T[]>();
  private count = 0;

  get size(): number {
    return this.count;
  }

  sizeOf(owner: string): number {
    return this.byOwner.get(owner)?.length ?? 0;
  }

  push(owner: string, item: T): void {
    const own = this.byOwner.get(owner);
    if (own) own.push(item);
    else this.byOwner.set(owner, [item]);
    this.count += 1;
  }

  /** Puts something back that had its turn already. */
  putBack(owner: string, item: T): void {
    this.byOwner.set(owner, [item, ...(this.byOwner.get(owner) ?? [])]);
    this.count += 1;
  }

  /** The next item of the owner whose turn it is, among those that `may` have one; that owner's next turn comes last. */
  next(may: (owner: string) => boolean): { readonly owner: string; readonly item: T } | null {
    for (const [owner, items] of this.byOwner) {
      if (!may(owner)) continue;
      const item = items.shift()!;
      this.byOwner.delete(owner);
      if (items.length > 0) this.byOwner.set(owner, items);
      this.count -= 1;
      return { owner, item };
    }
    return null;
  }

  remove(owner: string, item: T): boolean {
    const items = this.byOwner.get(owner);
    const at = items?.indexOf(item) ?? -1;
    if (!items || at < 0) return false;
    items.splice(at, 1);
    if (items.length === 0) this.byOwner.delete(owner);
    this.count -= 1;
    return true;
  }
}
