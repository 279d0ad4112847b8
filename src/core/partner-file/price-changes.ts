/** What of one blank a new price list changes; costs in minor units of the list's currency. */
export interface BlankChange {
  readonly blankId: string;
  readonly up: number;
  readonly down: number;
  /** The largest change either way, parts per million of the cost until now; 0 when none changes. */
  readonly mostUpPpm: number;
  readonly mostDownPpm: number;
  /** Variants that end with it, that come back, that run out of stock, and that are there again. */
  readonly ends: number;
  readonly returns: number;
  readonly runsOut: number;
  readonly restocked: number;
  /** Variants of which there are more or fewer than before, and some both times. */
  readonly stockMoves: number;
}

export interface ChangeTotals {
  readonly rows: number;
  readonly unchanged: number;
  /** Variants of the partner that the file does not name: they stay as they are. */
  readonly unnamed: number;
  readonly up: number;
  readonly down: number;
  readonly ends: number;
  readonly returns: number;
  readonly runsOut: number;
  readonly restocked: number;
  readonly stockMoves: number;
  /** Variants that had no cost until now. */
  readonly added: number;
}

/** One variant before and after. Cost -1: none until now. */
export interface VariantState {
  readonly costMinor: number;
  readonly stock: number;
  readonly ended: boolean;
}

type Counts = { -readonly [key in keyof Omit<BlankChange, 'blankId'>]: number };

const SUMMED = ['up', 'down', 'ends', 'returns', 'runsOut', 'restocked', 'stockMoves'] as const;

/** Counts what changes, variant by variant, as a file is compared. */
export class ChangeCounter {
  private readonly blanks = new Map<string, Counts>();
  private added = 0;
  private unchanged = 0;
  private rows = 0;

  add(blankId: string, before: VariantState, after: VariantState): void {
    this.rows += 1;
    const change: Counts = {
      up: 0,
      down: 0,
      mostUpPpm: 0,
      mostDownPpm: 0,
      ends: 0,
      returns: 0,
      runsOut: 0,
      restocked: 0,
      stockMoves: 0,
    };
    if (before.costMinor < 0) this.added += 1;
    else if (after.costMinor !== before.costMinor) {
      const ppm = Math.round(((after.costMinor - before.costMinor) / before.costMinor) * 1_000_000);
      if (ppm > 0) [change.up, change.mostUpPpm] = [1, ppm];
      else [change.down, change.mostDownPpm] = [1, ppm];
    }
    if (after.ended !== before.ended) change[after.ended ? 'ends' : 'returns'] = 1;
    else if (!after.ended && after.stock > 0 !== before.stock > 0)
      change[after.stock > 0 ? 'restocked' : 'runsOut'] = 1;
    else if (!after.ended && after.stock !== before.stock) change.stockMoves = 1;
    const differs = SUMMED.some((key) => change[key] > 0);
    if (!differs) {
      if (before.costMinor >= 0) this.unchanged += 1;
      return;
    }
    const have = this.blanks.get(blankId);
    if (!have) this.blanks.set(blankId, change);
    else {
      for (const key of SUMMED) have[key] += change[key];
      have.mostUpPpm = Math.max(have.mostUpPpm, change.mostUpPpm);
      have.mostDownPpm = Math.min(have.mostDownPpm, change.mostDownPpm);
    }
  }

  /** Blanks that change, those that rise the most first, and the sums of all. */
  result(unnamed: number): { totals: ChangeTotals; blanks: BlankChange[] } {
    const blanks = [...this.blanks]
      .map(([blankId, counts]): BlankChange => ({ blankId, ...counts }))
      .sort((a, b) => b.mostUpPpm - a.mostUpPpm || a.mostDownPpm - b.mostDownPpm || (a.blankId < b.blankId ? -1 : 1));
    const sum = (key: (typeof SUMMED)[number]) => blanks.reduce((total, blank) => total + blank[key], 0);
    return {
      blanks,
      totals: {
        rows: this.rows,
        unchanged: this.unchanged,
        unnamed,
        up: sum('up'),
        down: sum('down'),
        ends: sum('ends'),
        returns: sum('returns'),
        runsOut: sum('runsOut'),
        restocked: sum('restocked'),
        stockMoves: sum('stockMoves'),
        added: this.added,
      },
    };
  }
}
