/** Requests after which the quickest way to the shop is believed to be known. */
const ENOUGH = 30;
/** What was seen longer ago than one to two of these no longer counts: routes change, and clocks drift. */
const SPAN_MS = 30_000;
/**
 * Of n ways the quickest is seldom the quickest that there is: the next one is quicker with a chance of 1 : n, and then by about the n-th part of what
 * they differ by. So many of these parts are kept as a margin: much for a way that is little known, next to nothing later.
 */
const PARTS = 4;

/** Differences of our clock, when a request was sent, and the shop's, when it was counted, ms. */
class Seen {
  count = 0;
  sum = 0;
  greatest = Number.NEGATIVE_INFINITY;

  constructor(readonly began = Number.NEGATIVE_INFINITY) {}

  note(difference: number): void {
    this.count += 1;
    this.sum += difference;
    this.greatest = Math.max(this.greatest, difference);
  }
}

/**
 * How a shop's clock stands to this process's, as far as requests tell: each was counted there somewhat after it was sent from here. The one for which
 * that was shortest says when another has to be sent to get there at a given time, and not before.
 */
export class ShopClock {
  private now = new Seen();
  private before = new Seen();

  /** A request that was sent at `sentMs` by our clock was counted at `countedMs` by the shop's. */
  note(sentMs: number, countedMs: number): void {
    if (sentMs - this.now.began > SPAN_MS) {
      this.before = this.now;
      this.now = new Seen(sentMs);
    }
    this.now.note(sentMs - countedMs);
  }

  /** From when on, by our clock, a request gets there at `shopMs` by the shop's or later; null while too little is known. */
  earliest(shopMs: number): number | null {
    const count = this.now.count + this.before.count;
    if (count < ENOUGH) return null;
    const greatest = Math.max(this.now.greatest, this.before.greatest);
    const spread = greatest - (this.now.sum + this.before.sum) / count;
    return shopMs + greatest + (PARTS * spread) / count;
  }

  /** Nothing is known any more. */
  forget(): void {
    this.now = new Seen();
    this.before = new Seen();
  }
}
