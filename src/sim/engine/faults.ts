/** Misbehavior on request: what tests and the curious switch on. Numbers count down with each time that it happens, but for those that say what holds. */
export interface Faults {
  /** Requests of programs that are answered 429, with Retry-After in seconds; and with Retry-After as a date. */
  tooMany: number;
  tooManyUntil: number;
  /** Requests that are answered 503. */
  unavailable: number;
  /** Requests that are answered 500 before anything was done; changes that are answered 500 after they were done. */
  failBefore: number;
  failAfter: number;
  /** Changes that are done and never answered. */
  loseAnswers: number;
  /** Answers that end in their middle with the connection; answers whose JSON is broken. */
  cutAnswers: number;
  brokenJson: number;
  /** Files of which only the first half of the rows is done. */
  halfBatches: number;
  /** Requests at which the token that came with them ends. */
  endTokens: number;
  /** Pictures that are taken and refused when they are judged. */
  refusePictures: number;
  /** Holds: milliseconds that every answer waits. */
  slowMs: number;
  /** Holds: what no token may do any longer, whatever it was given for. */
  takenScopes: readonly string[];
  /** Holds: how far what the shop tells as the time is off, ms. */
  clockOffMs: number;
}

export type CountedFault = {
  [F in keyof Faults]: Faults[F] extends number ? F : never;
}[Exclude<keyof Faults, 'slowMs' | 'clockOffMs'>];

const noFaults = (): Faults => ({
  tooMany: 0,
  tooManyUntil: 0,
  unavailable: 0,
  failBefore: 0,
  failAfter: 0,
  loseAnswers: 0,
  cutAnswers: 0,
  brokenJson: 0,
  halfBatches: 0,
  endTokens: 0,
  refusePictures: 0,
  slowMs: 0,
  takenScopes: [],
  clockOffMs: 0,
});

/** The faults of a shop, with how often each happened. */
export class FaultBox {
  readonly now: Faults;
  readonly happened = new Map<string, number>();

  constructor(first: Partial<Faults> = {}) {
    this.now = { ...noFaults(), ...first };
  }

  /** Whether a fault is to happen this time; it is counted. */
  take(fault: CountedFault): boolean {
    if (this.now[fault] <= 0) return false;
    this.now[fault] -= 1;
    this.happened.set(fault, (this.happened.get(fault) ?? 0) + 1);
    return true;
  }
}
