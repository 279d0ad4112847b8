/** Half a minute, where a shop does not say. */
const UNSAID_MS = 30_000;

/** `Retry-After` in ms: seconds or a date (RFC 9110, 10.2.3). A date is by the shop's clock, which `date`, its own header, tells. */
export function retryAfterMs(value: string | null, now: number, date: string | null = null): number {
  if (value && /^\d+$/.test(value.trim())) return Number(value) * 1000;
  const until = value ? Date.parse(value) : Number.NaN;
  if (!Number.isFinite(until)) return UNSAID_MS;
  const theirs = date ? Date.parse(date) : Number.NaN;
  return Math.max(0, until - (Number.isFinite(theirs) ? theirs : now));
}
