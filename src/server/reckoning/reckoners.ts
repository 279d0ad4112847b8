import { TypicaError } from '@/core/errors';
import type { Finding } from '@/core/findings/finding';
import type { ShelfQuery } from '@/core/shelf/shelf';
import type { SheetChange } from '@/core/pricing/price-sheet';
import type { SkuMatch } from '@/core/variants/match';
import type { CodeChange } from '@/core/variants/codes-csv';
import type { Browsed } from '../catalog/browsed';
import type { Context } from '../context';
import type { CheckedProduct } from '../findings/compute';
import type { Actor } from '../people/people';
import type { BulkView } from '../pricing/bulk';
import type { BulkFile, BulkPreview, Many, RuleToMany } from '../pricing/bulk-tasks';
import type { SheetPreview } from '../pricing/sheet';
import { ProcessPool } from '../processes/pool';
import { programOf } from '../studio/folder';
import { processWide } from '../process-wide';

export interface OfProduct {
  readonly workspaceId: string;
  readonly productId: string;
}
export interface FileOf extends OfProduct {
  readonly csv: Uint8Array;
}
export interface Applied extends FileOf {
  readonly actor: Actor;
}
export type PreviewOf<C> = SheetPreview<C> & { readonly revision: number };

/** What is reckoned beside the process that answers: by name, what it is given and what it gives. */
export interface Reckonings {
  readonly findings: [CheckedProduct, Finding[]];
  readonly browse: [
    { readonly workspace: { readonly workspaceId: string; readonly currency: string }; readonly query: ShelfQuery },
    Browsed,
  ];
  readonly 'export-prices': [OfProduct, string];
  readonly 'preview-prices': [FileOf, PreviewOf<SheetChange>];
  readonly 'apply-prices': [Applied, PreviewOf<SheetChange>];
  readonly 'preview-codes': [FileOf, PreviewOf<CodeChange>];
  readonly 'apply-codes': [Applied, PreviewOf<CodeChange>];
  readonly 'export-all-prices': [{ readonly workspaceId: string; readonly of: Many }, string];
  readonly 'preview-all-prices': [BulkFile, BulkPreview];
  readonly 'apply-all-prices': [
    { readonly actor: Actor; readonly csv: Uint8Array },
    { readonly batchId: string; readonly products: number },
  ];
  readonly 'preview-rule': [{ readonly workspaceId: string; readonly to: RuleToMany }, BulkView];
  readonly 'apply-rule': [
    { readonly actor: Actor; readonly to: RuleToMany },
    { readonly batchId: string; readonly products: number },
  ];
  readonly 'match-skus': [
    { readonly workspaceId: string; readonly blankId: string; readonly currency: string; readonly csv: Uint8Array },
    readonly SkuMatch[],
  ];
}

export type Reckoning = {
  [K in keyof Reckonings]: { readonly task: K; readonly input: Reckonings[K][0] };
}[keyof Reckonings];

const SECONDS = 30;
const tooSlow = (seconds: number) =>
  new TypicaError(
    'invalid',
    'reckoning-too-slow',
    `This took longer than ${seconds} seconds and was stopped. Make it smaller: fewer texts on the design, fewer rows in the file.`,
  );
const tooHeavy = () =>
  new TypicaError('invalid', 'reckoning-too-heavy', 'This needed too much memory and was stopped. Make it smaller.');

/** The shelf is browsed by one process, which holds it; all else is for another, so that a slow design keeps nobody from browsing. */
type Desk = 'shelf' | 'desk';
const pools = processWide('reckoners', () => new Map<string, ProcessPool<Reckoning, unknown>>());

function poolOf(ctx: Context, desk: Desk): ProcessPool<Reckoning, unknown> {
  const { config } = ctx;
  const key = `${desk}/${config.databaseUrl}`;
  const have = pools.get(key);
  if (have) return have;
  const heapMb = desk === 'shelf' ? 256 : 160;
  const pool = new ProcessPool<Reckoning, unknown>({
    name: desk,
    open: async () => ({
      command: {
        command: process.execPath,
        args: ['--enable-source-maps', `--max-old-space-size=${heapMb}`, programOf('reckoner')],
        env: {
          ...process.env,
          TYPICA_HOME: config.home,
          TYPICA_ORIGIN: config.origin,
          TYPICA_DATABASE_URL: config.databaseUrl,
          TYPICA_KEY_FILE: config.keyFile,
          TYPICA_PENNYQUAY_URL: config.channels.pennyquay.url,
          TYPICA_POOL_SIZE: '2',
        },
      },
      clear: async () => undefined,
    }),
    size: 1,
    inFlight: 1,
    seconds: SECONDS,
    memoryMb: heapMb + 150,
    // The shelf takes seconds to fill.
    idleMs: desk === 'shelf' ? 3_600_000 : 300_000,
    tooSlow,
    tooHeavy,
  });
  pools.set(key, pool);
  return pool;
}

/** Has something reckoned in a process of its own, in turn by workspace. Throws `reckoning-too-slow`, `reckoning-too-heavy`, `studio-busy`. */
export function reckon<K extends keyof Reckonings>(
  ctx: Context,
  task: K,
  input: Reckonings[K][0],
  owner: string,
): Promise<Reckonings[K][1]> {
  const pool = poolOf(ctx, task === 'browse' ? 'shelf' : 'desk');
  return pool.ask({ task, input } as Reckoning, { owner }) as Promise<Reckonings[K][1]>;
}

/** Ends the processes for a database; for tests, whose databases go. */
export async function closeReckoners(databaseUrl: string): Promise<void> {
  for (const desk of ['shelf', 'desk'] as const) {
    await pools.get(`${desk}/${databaseUrl}`)?.close();
    pools.delete(`${desk}/${databaseUrl}`);
  }
}
