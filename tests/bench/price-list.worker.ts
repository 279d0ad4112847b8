import { makeContext } from '../../src/server/context';
import { Pools } from '../../src/server/db/pool';
import type { JobRow } from '../../src/server/jobs/job-row';
import { takePriceList } from '../../src/server/price-lists/price-lists';
import { readPriceList } from '../../src/server/price-lists/read.job';
import type { JobControl } from '../../src/server/jobs/worker';

/**
 * What the bench's side `ours` does, in a process of its own as in production, so that its memory is measured alone: for each line with a
 * price list's id it reads and takes that list, and answers with the time, the memory and how often it told its progress.
 */
const pools = new Pools(process.env.TYPICA_DATABASE_URL!);
const ctx = makeContext(process.env, { pools, db: pools.db });
const actor = {
  personId: 'u-bench',
  workspaceId: 'w-bench',
  email: '',
  personName: 'Bench',
  workspaceName: 'Bench',
  currency: 'GBP',
  country: 'GB',
};

process.on('message', (id: string) => {
  let reports = 0;
  const job = { workspaceId: actor.workspaceId, payload: { priceListId: id } } as unknown as JobRow;
  const control: JobControl = {
    job,
    progress: async () => void (reports += 1),
    signal: new AbortController().signal,
    mayGoOn: async () => {},
    write: (work) => ctx.pools.transaction(work),
  };
  void readPriceList(ctx, control)
    .then(() => takePriceList(ctx, actor, id))
    .then(
      ({ state, report }) =>
        process.send!({ state, totals: report?.totals, reports, memoryMb: process.resourceUsage().maxRSS / 1024 }),
      (error: Error) => process.send!({ error: error.stack }),
    );
});
