import { describe, expect, it } from 'vitest';
import { corpus, judgeAll } from './corpus';
import { score } from './designs';
import { doAll, type Done } from './remedies';

/** The short twin of `npm run bench findings-corpus`: every twelfth design, beginning with the first, and every third good one. */
describe('the corpus of designs', () => {
  it('is judged as the trade would: mistakes are said, what lies just under the line is not, good designs are left alone', async () => {
    const designs = corpus();
    expect(designs.length).toBeGreaterThanOrEqual(1000);
    expect(designs.filter(({ kind }) => kind === 'good').length).toBeGreaterThanOrEqual(150);
    const part = designs.filter(({ kind }, i) => (kind === 'good' ? i % 3 === 0 : i % 12 === 0));
    const judged = await judgeAll(part);
    const { total, quiet, faults } = score(judged);
    expect(quiet, faults.join('\n')).toBe(1);
    expect(total.precision, faults.join('\n')).toBeGreaterThanOrEqual(0.95);
    expect(total.recall, faults.join('\n')).toBeGreaterThanOrEqual(0.95);
    // Every remedy clears its finding and brings none.
    const done: Done[] = [];
    for (const one of judged) done.push(...(await doAll(one)));
    expect(done.length).toBeGreaterThan(20);
    expect(done.filter(({ left, brought }) => left || brought.length > 0)).toEqual([]);
  }, 240_000);
});
