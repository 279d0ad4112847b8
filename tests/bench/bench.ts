/**
 * `npm run bench [NAME]`: each benchmark does the same work through our code and through the named reference in one run, taking turns,
 * several rounds, and prints one line.
 */
export interface Bench {
  readonly name: string;
  /** What the reference is; it may find out in its setup what its best is. */
  readonly reference: string | (() => string);
  readonly rounds: number;
  setup(): Promise<{
    ours(): Promise<unknown>;
    theirs(): Promise<unknown>;
    after?(): Promise<string>;
    close?(): Promise<void>;
  }>;
}

/** What is done once, so long does it take: its reference is reckoned from the same run. */
export interface Once {
  readonly name: string;
  readonly reference: string;
  measure(): Promise<{ readonly oursMs: number; readonly referenceMs: number; readonly more: string }>;
}

/** What has no reference is held against a budget; it prints its own line. */
export interface Budget {
  readonly name: string;
  /** Gives what stands behind `bench NAME budget`. */
  measure(): Promise<string>;
}
