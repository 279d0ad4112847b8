/** What of a store's listings its shop did not find when it was looked for last. */
export interface Missing {
  readonly missing: number;
  /** All that stand there, those that are missing among them. */
  readonly total: number;
}

const FEW = 3;
/** One of so many is a mass where it is more than a few. */
const PART = 4;

/**
 * Whether so much is missing at once that the shop itself may be wrong (emptied by mistake, another shop at its address, or ill) rather than each
 * listing deleted: more than a few, and a quarter or more of all. From no source: a few deletions are a seller's work, a quarter seldom is.
 */
export const isMass = ({ missing, total }: Missing): boolean => missing >= FEW && missing * PART >= total;
