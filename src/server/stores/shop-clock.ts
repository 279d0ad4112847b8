/** Requests after which the quickest way to the shop is believed to be known. */
const ENOUGH = 30;
/** What was seen longer ago than one to two of these no longer counts: routes change, and clocks drift. */
const SPAN_MS = 30_000;

/**
 * How a shop's clock stands to this process's, as far as requests tell: each was counted there somewhat after it was sent from here. The one for which
 * that was shortest says when another has to be sent to get there at a given time, and not before.
 */
export class ShopClock {
  /** Greatest difference of our clock, when a request was sent, and the shop's, when it was counted: of this span and of the one before. */
  private greatest = Number.NEGATIVE_INFINITY;
  private before = Number.NEGATIVE_INFINITY;
  private began = Number.NEGATIVE_INFINITY;
  private seen = 0;

  /** A request that was sent at `sentMs` by our clock was counted at `countedMs` by the shop's. */
  note(sentMs: number, countedMs: number): void {
    if (sentMs - this.began > SPAN_MS) {
      this.before = this.greatest;
      this.greatest = Number.NEGATIVE_INFINITY;
      this.began = sentMs;
    }
    this.greatest = Math.max(this.greatest, sentMs - countedMs);
    this.seen += 1;
  }

  /** From when on, by our clock, a request gets there at `shopMs` by the shop's or later; null while too little is known. */
  earliest(shopMs: number): number | null {
    return this.seen < ENOUGH ? null : shopMs + Math.max(this.greatest, this.before);
  }

  /** Nothing is known any more. */
  forget(): void {
    this.greatest = this.before = this.began = Number.NEGATIVE_INFINITY;
    this.seen = 0;
  }
}
