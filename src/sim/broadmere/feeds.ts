import type { Objection } from '../engine/goods';
import { keepArticle, newArticle, removeArticle } from '../engine/keeping';
import type { ShopKind } from '../engine/world';
import { objectionsToGood, objectionsToSale } from './rules';
import type { Broadmere, Extra, Feed, Good, Own, RowResult } from './shop';
import { changed } from './wire';

/** A file waits so long, and then each of its rows takes its time. */
const START_MS = 20_000;
const ROW_MS = 100;

export const MAX_ROWS = 200;

/** New goods are found by programs after this time. */
const FOUND_AFTER_MS = 60_000;

interface Row {
  readonly row: string;
  readonly do: 'list' | 'revise' | 'erase';
  readonly mark?: string;
  readonly good?: string;
  readonly doc?: Record<string, unknown>;
}

/** How many rows of a feed are done by now. */
const due = (feed: Feed, now: number): number =>
  Math.max(0, Math.min(feed.rows.length, Math.floor((now - feed.takenAt - START_MS) / ROW_MS)));

export const phaseOf = (feed: Feed, now: number): 'queued' | 'working' | 'closed' =>
  feed.results.length === feed.rows.length ? 'closed' : now - feed.takenAt < START_MS ? 'queued' : 'working';

/** Works through what is due of all files. */
export function workFeeds(world: Broadmere, kind: ShopKind<Own, Extra>): void {
  const feeds = world.records.table<Feed>('feeds');
  const open = world.records.table<true>('openFeeds');
  for (const feed of world.records.table<Feed>('feeds').all()) {
    if (!open.get(feed.id)) continue;
    const until = due(feed, world.now());
    if (until === feed.results.length) continue;
    while (feed.results.length < until) feed.results.push(resultOf(feed, feed.results.length, world, kind));
    feeds.put(feed.id, feed);
    if (feed.results.length === feed.rows.length) open.drop(feed.id);
  }
}

function resultOf(feed: Feed, index: number, world: Broadmere, kind: ShopKind<Own, Extra>): RowResult {
  const row = rowOf(feed.rows[index]!);
  if (!row) return rejected(`#${index + 1}`, [{ field: 'row', message: 'ROW: this is no row.' }]);
  if (index >= feed.done) return { row: row.row, result: 'not-run' };
  return work(row, feed.account, world, kind, feed.takenAt + START_MS + (index + 1) * ROW_MS);
}

function rowOf(text: string): Row | null {
  try {
    const row = JSON.parse(text) as Row;
    return typeof row.row === 'string' && ['list', 'revise', 'erase'].includes(row.do) ? row : null;
  } catch {
    return null;
  }
}

const rejected = (row: string, faults: readonly Objection[]): RowResult => ({ row, result: 'rejected', faults });

/** `at` is when the row's turn came, which nobody may have asked about since. */
function work(row: Row, account: string, world: Broadmere, kind: ShopKind<Own, Extra>, at: number): RowResult {
  const known = world.articles.get(row.good ?? '');
  if (row.do !== 'list' && known?.account !== account)
    return rejected(row.row, [{ field: 'good', message: 'GOOD: there is none of this number.' }]);
  const accepted = (good: Good): RowResult => ({
    row: row.row,
    result: 'accepted',
    good: good.id,
    page: `${world.url}/goods/${good.id}`,
  });
  if (row.do === 'erase') {
    removeArticle(world, kind, known!);
    return accepted(known!);
  }
  const before =
    row.do === 'list'
      ? { ...newArticle(world, kind, account, row.mark ?? null), createdAt: at, foundFrom: at + FOUND_AFTER_MS }
      : known!;
  const next = changed(before, row.doc ?? {});
  const wanted = row.doc?.on;
  const live = typeof wanted === 'boolean' ? wanted : before.stage === 'live';
  const faults = live ? objectionsToSale(next, world) : objectionsToGood(next, world);
  if (faults.length > 0) return rejected(row.row, faults);
  return accepted(keepArticle(world, kind, { ...next, stage: live ? 'live' : 'draft' }));
}
