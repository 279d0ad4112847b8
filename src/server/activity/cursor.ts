import { invalid } from '@/core/errors';

interface Place {
  readonly at: Date;
  readonly id: number;
}

/** Where a page ended, as text for an address. */
export const cursorAfter = ({ at, id }: Place): string => `${at.getTime()}-${id}`;

/** Reads it; null where it is absent. Throws `query-unreadable`. */
export function cursorOf(text: string | null): Place | null {
  if (!text) return null;
  const [, ms, id] = /^(\d{1,14})-(\d{1,15})$/.exec(text) ?? [];
  if (ms === undefined) throw invalid('query-unreadable', 'after is what the page before gave as after.');
  return { at: new Date(Number(ms)), id: Number(id) };
}
