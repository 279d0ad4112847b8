import { isTypicaError } from '../../src/core/errors';
import { MAX_RETAIL_MINOR } from '../../src/core/pricing/money';
import type { Terms } from '../../src/core/pricing/quote';
import { solveRetail, surplusOver, type Aim } from '../../src/core/pricing/solve';
import { sampleFee, sampleTerms } from '../../src/core/pricing/terms-sample';
import type { Bench } from './bench';

type Solvable = Exclude<Aim, { kind: 'retail' }>;
interface Case {
  readonly terms: Terms;
  readonly aim: Solvable;
}

/** A generator of its own, so that every run has the same cases. */
function* numbers(): Generator<number> {
  let state = 20_261_129;
  for (;;) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    yield state / 2 ** 32;
  }
}

/** Shares of fees and sale that leave next to nothing, leasts and mosts that bend the line, free shipping, and aims close to what can be. */
function hostile(count: number): Case[] {
  const next = numbers();
  const up = (most: number) => Math.floor(next.next().value! * (most + 1));
  const cases: Case[] = [];
  for (let i = 0; i < count; i += 1) {
    const taken = 900_000 + up(99_999);
    const parts = 1 + up(3);
    const fees = Array.from({ length: parts }, (_, n) =>
      sampleFee({
        id: `f${n}`,
        of: up(1) ? 'item' : 'item+shipping',
        ratePpm: Math.floor(taken / parts),
        fixedMinor: up(200),
        ...(up(3) === 0 ? { minMinor: up(400) } : {}),
        ...(up(3) === 0 ? { maxMinor: 400 + up(20_000) } : {}),
        ...(up(3) === 0 ? { taxPpm: 1000 } : {}),
      }),
    );
    const terms = sampleTerms(100 + up(3000), {
      fees,
      items: 1 + up(4),
      salePpm: up(2) === 0 ? up(970_000) : 0,
      shippingChargedMinor: up(900),
      freeFromMinor: up(2) === 0 ? 1000 + up(9000) : null,
      tax: up(2) === 0 ? { country: '*', label: 'VAT', ratePpm: up(250_000), inside: true } : null,
    });
    const aim: Solvable = up(1)
      ? { kind: 'profit', amountMinor: up(1500) }
      : { kind: 'margin', ppm: up(Math.max(0, 1_000_000 - taken)) };
    cases.push({ terms, aim });
  }
  return cases;
}

const ours = ({ terms, aim }: Case): number | null => {
  try {
    return solveRetail(terms, aim);
  } catch (error) {
    if (isTypicaError(error, 'price-unsolvable')) return null;
    throw error;
  }
};

/** The same by trying one price after the other. */
function tried({ terms, aim }: Case): number | null {
  for (let price = 0; price <= MAX_RETAIL_MINOR; price += 1) if (surplusOver(terms, aim, price) >= 0) return price;
  return null;
}

const bench: Bench = {
  name: 'price-solve',
  reference: 'trying every price from nothing up, in the same cases',
  rounds: 5,
  async setup() {
    const all = hostile(4000);
    const times = all.map((one) => {
      const began = performance.now();
      const price = ours(one);
      return { one, price, ms: performance.now() - began };
    });
    const solved = times.filter(({ price }) => price !== null && price < 400_000).slice(0, 200);
    for (const { one, price } of solved)
      if (tried(one) !== price)
        throw new Error(`the two do not agree: ${price} and ${tried(one)} for ${JSON.stringify(one)}`);
    // Compiled by now: the worst of every case once more.
    const worst = Math.max(
      ...all.map((one) => {
        const began = performance.now();
        ours(one);
        return performance.now() - began;
      }),
    );
    const cases = solved.map(({ one }) => one);
    return {
      ours: async () => cases.forEach(ours),
      theirs: async () => cases.forEach(tried),
      async after() {
        const none = times.filter(({ price }) => price === null).length;
        return `${all.length} hostile cases, worst solve ${worst.toFixed(2)} ms (budget 5), ${none} of them without a price; ratio over ${cases.length} whose price lies below 4,000.00`;
      },
    };
  },
};
export default bench;
