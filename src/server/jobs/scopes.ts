import type { Context } from '../context';
import type { SignedIn } from '../people/people';
import { need, type Scope } from '../people/scopes';
import { findJob } from './jobs';

/** What it takes to stop a job of a kind or to run it again: what it took to ask for it. */
const SCOPE_OF_KIND: ReadonlyMap<string, Scope> = new Map([
  ['send-listing', 'send'],
  ['check-listing', 'send'],
  ['read-listings', 'send'],
  ['ask-changes', 'send'],
  ['remove-listing', 'send'],
  ['show-listing', 'send'],
  ['renew-listing', 'send'],
  ['pause-store', 'send'],
  ['send-file', 'send'],
  ['look-at-send', 'send'],
  ['begin-send', 'send'],
  ['change-prices', 'price'],
  ['read-price-list', 'money'],
  ['lay-price-list', 'money'],
]);

/** Throws `scope-missing` when the actor may not decide on this job. */
export async function needForJob(ctx: Context, actor: SignedIn, jobId: string): Promise<void> {
  const job = await findJob(ctx, actor.workspaceId, jobId);
  need(actor.credential, SCOPE_OF_KIND.get(job?.kind ?? '') ?? 'design');
}
