import { cpus } from 'node:os';
import type { Bench, Budget, Once } from './bench';

const BUDGETS: Record<string, () => Promise<{ default: Budget }>> = {
  browser: () => import('./browser'),
  desk: () => import('./desk'),
  'live-proof': () => import('./live-proof'),
  'findings-corpus': () => import('./findings-corpus'),
};

const BENCHES: Record<string, () => Promise<{ default: Bench }>> = {
  'print-file-flat': async () => ({ default: (await import('./print-file')).flat }),
  'print-file-photo': async () => ({ default: (await import('./print-file')).photo }),
  'print-set': () => import('./print-set'),
  findings: () => import('./findings'),
  lettering: () => import('./lettering'),
  catalog: () => import('./catalog'),
  'price-list': () => import('./price-list'),
  'price-table': () => import('./price-table'),
  'price-solve': () => import('./price-solve'),
  range: async () => ({ default: (await import('./range')).first }),
  'range-far': async () => ({ default: (await import('./range')).far }),
  'mockup-set': async () => ({ default: (await import('./mockup')).mockupSet }),
  'mockup-product': async () => ({ default: (await import('./mockup')).mockupProduct }),
  'mockup-warp': () => import('./mockup-warp'),
};

const ONCE: Record<string, () => Promise<{ default: Once }>> = { send: () => import('./send') };

const median = (values: number[]): number => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;
/** Ms of a piece of work; a number that it gives is its own time, in which something was taken off. */
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  const own = await work();
  return typeof own === 'number' ? own : performance.now() - began;
};

const wanted = process.argv.slice(2);
for (const [name, load] of Object.entries(BENCHES)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const bench = (await load()).default;
  const { ours, theirs, after, close } = await bench.setup();
  // One round of each to warm up, not counted.
  await ours();
  await theirs();
  const [a, b]: [number[], number[]] = [[], []];
  for (let round = 0; round < bench.rounds; round += 1) {
    // Who goes first changes each round.
    if (round % 2 === 0) {
      a.push(await timed(ours));
      b.push(await timed(theirs));
    } else {
      b.push(await timed(theirs));
      a.push(await timed(ours));
    }
  }
  const [mine, reference] = [median(a), median(b)];
  process.stdout.write(
    `bench ${name} ratio ${(mine / reference).toFixed(2)} (ours ${mine.toFixed(0)} ms, reference ${reference.toFixed(0)} ms, rounds ${bench.rounds})\n`,
  );
  process.stdout.write(
    `  reference: ${typeof bench.reference === 'string' ? bench.reference : bench.reference()}; medians; ${cpus().length} cores, Node ${process.version}\n`,
  );
  if (after) process.stdout.write(`  ${await after()}\n`);
  await close?.();
}
for (const [name, load] of Object.entries(ONCE)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const { reference, measure } = (await load()).default;
  const { oursMs, referenceMs, more } = await measure();
  process.stdout.write(
    `bench ${name} ratio ${(oursMs / referenceMs).toFixed(2)} (ours ${oursMs.toFixed(0)} ms, reference ${referenceMs.toFixed(0)} ms, rounds 1)\n  reference: ${reference}; ${cpus().length} cores, Node ${process.version}\n  ${more}\n`,
  );
}
for (const [name, load] of Object.entries(BUDGETS)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  process.stdout.write(`bench ${name} budget ${await (await load()).default.measure()}\n`);
}
process.exit(0);
