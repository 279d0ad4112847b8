/** Misbehavior on request, counted down: what tests and the curious switch on. */
export interface Faults {
  /** The next answers to POST /api/items are lost after the item was made. */
  loseAnswers: number;
  /** The next requests are answered 503. */
  unavailable: number;
  /** The next requests are answered 429 with Retry-After. */
  tooMany: number;
  /** Milliseconds that every answer waits. */
  slowMs: number;
}

export const noFaults = (): Faults => ({ loseAnswers: 0, unavailable: 0, tooMany: 0, slowMs: 0 });
