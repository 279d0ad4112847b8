import fs from 'node:fs/promises';
import path from 'node:path';
import type { BlobFiles } from '@/ports/blobs';
import { newId } from '../db/ids';
import type { PoolFolder } from '../processes/pool';
import { shutIn } from '../processes/sandbox';

/** A process that draws: shut in with a folder of its own, in which the files of each order appear for as long as it works on it. */
export interface StudioOptions<O> {
  readonly home: string;
  readonly files: BlobFiles;
  readonly program: string;
  readonly heapMb: number;
  /** Hashes of the blobs that an order is drawn from. */
  readonly needs: (order: O) => Iterable<string>;
  /** Folders of the home that it may write to beside its own. */
  readonly writable?: readonly string[];
}

/** Where a process finds the files of its orders, and where it leaves what it made. */
export interface StudioPlaces {
  readonly input: string;
  readonly output: string;
}

/** The program of a pool in `dist`; where the sources run as they are (tests), too. */
export const programOf = (name: string): string =>
  path.join(/* turbopackIgnore: true */ process.cwd(), 'dist', `${name}.mjs`);

export async function openStudio<O>(options: StudioOptions<O>): Promise<PoolFolder<O>> {
  const folder = path.join(options.home, 'tmp', newId('studio'));
  // What is made outlives the process: it is taken away by whoever asked for it.
  const [input, output] = [path.join(folder, 'in'), path.join(options.home, 'tmp', 'made')];
  const writable = options.writable ?? [];
  for (const place of [input, output, ...writable]) await fs.mkdir(place, { recursive: true });
  const uses = new Map<string, number>();
  // One after the other: a file that an order no longer needs may be what the next one begins with.
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const next = last.then(work, work);
    last = next.catch(() => undefined);
    return next;
  };
  const takeAway = async (hashes: readonly string[]) => {
    for (const sha256 of hashes) {
      const left = (uses.get(sha256) ?? 1) - 1;
      if (left > 0) uses.set(sha256, left);
      else {
        uses.delete(sha256);
        await fs.rm(path.join(input, sha256), { force: true });
      }
    }
  };
  return {
    command: shutIn(
      { readOnly: [input], writable: [output, ...writable] },
      [
        '--enable-source-maps',
        '--expose-gc',
        `--max-old-space-size=${options.heapMb}`,
        options.program,
        JSON.stringify({ input, output } satisfies StudioPlaces),
        options.home,
      ],
      { MALLOC_ARENA_MAX: '2' },
    ),
    lay: (order) =>
      inTurn(async () => {
        const laid: string[] = [];
        try {
          for (const sha256 of new Set(options.needs(order))) {
            uses.set(sha256, (uses.get(sha256) ?? 0) + 1);
            laid.push(sha256);
            await options.files.link(sha256, path.join(input, sha256));
          }
        } catch (error) {
          await takeAway(laid);
          throw error;
        }
        return () => inTurn(() => takeAway(laid));
      }),
    clear: () => fs.rm(folder, { recursive: true, force: true }),
  };
}

/** Inside such a process: where its files are, and how they are read. */
export function studioPlaces(): StudioPlaces & { readonly home: string; read(sha256: string): Promise<Buffer> } {
  const [places, home] = process.argv.slice(2) as [string, string];
  const { input, output } = JSON.parse(places) as StudioPlaces;
  return { input, output, home, read: (sha256) => fs.readFile(path.join(input, path.basename(sha256))) };
}
