import { describe, expect, it } from 'vitest';
import { corpus, judgeAll } from './corpus';
import { score } from './designs';

/** The short twin of `npm run bench findings-corpus`: every twelfth design, beginning with the first, and every third good one. */
describe('the corpus of designs', () => {
  it('is judged as the trade would: mistakes are said, what lies just under the line is not, good designs are left alone', async () => {
    const designs = corpus();
    expect(designs.length).toBeGreaterThanOrEqual(1000);
    expect(designs.filter(({ kind }) => kind === 'good').length).toBeGreaterThanOrEqual(150);
    const part = designs.filter(({ kind }, i) => (kind === 'good' ? i % 3 === 0 : i % 12 === 0));
    const { total, quiet, faults } = score(await judgeAll(part));
    expect(quiet, faults.join('\n')).toBe(1);
    expect(total.precision, faults.join('\n')).toBeGreaterThanOrEqual(0.95);
    expect(total.recall, faults.join('\n')).toBeGreaterThanOrEqual(0.95);
  }, 240_000);
});
