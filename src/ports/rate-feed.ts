/** Where exchange rates come from by themselves, once each working day. */
export interface RateFeed {
  /** The newest rates as CSV with the columns from, to, rate and date. Throws `rates-unreachable`, or `rates-unreadable` for what is no such list. */
  newest(signal?: AbortSignal): Promise<Uint8Array>;
}
