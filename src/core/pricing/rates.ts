import { TypicaError } from '../errors';
import { minorDigits, type Money } from './money';

/** One unit of `from` is `rate` units of `to` on `date` (YYYY-MM-DD). The rate is a decimal text, so that it is exact. */
export interface ExchangeRate {
  readonly from: string;
  readonly to: string;
  readonly rate: string;
  readonly date: string;
}

interface Fraction {
  readonly num: bigint;
  readonly den: bigint;
}

function fractionOf(rate: string): Fraction {
  const match = /^(\d{1,12})(?:\.(\d{1,12}))?$/.exec(rate);
  if (!match || /^0+(\.0+)?$/.test(rate))
    throw new TypicaError('invalid', 'rate-unreadable', `"${rate}" is not an exchange rate above zero.`);
  const decimals = match[2] ?? '';
  return { num: BigInt(match[1]! + decimals), den: 10n ** BigInt(decimals.length) };
}

/** A table of dated rates that answers with the newest rate for a pair, straight, reversed, or over one currency in between. */
export class RateTable {
  private readonly pairs = new Map<string, { fraction: Fraction; date: string }>();
  private readonly currencies = new Set<string>();

  constructor(rates: readonly ExchangeRate[]) {
    for (const { from, to, rate, date } of rates) {
      this.currencies.add(from).add(to);
      this.keep(from, to, fractionOf(rate), date);
      const { num, den } = fractionOf(rate);
      this.keep(to, from, { num: den, den: num }, date);
    }
  }

  private keep(from: string, to: string, fraction: Fraction, date: string) {
    const have = this.pairs.get(from + to);
    if (!have || have.date < date) this.pairs.set(from + to, { fraction, date });
  }

  /** Rate as a fraction with the date of its oldest part. Throws `rate-missing` with what to do. */
  find(from: string, to: string): { fraction: Fraction; date: string } {
    if (from === to) return { fraction: { num: 1n, den: 1n }, date: '9999-12-31' };
    const straight = this.pairs.get(from + to);
    if (straight) return straight;
    for (const middle of [...this.currencies].sort()) {
      const one = this.pairs.get(from + middle);
      const two = this.pairs.get(middle + to);
      if (one && two) {
        return {
          fraction: { num: one.fraction.num * two.fraction.num, den: one.fraction.den * two.fraction.den },
          date: one.date < two.date ? one.date : two.date,
        };
      }
    }
    throw new TypicaError(
      'invalid',
      'rate-missing',
      `There is no exchange rate from ${from} to ${to}. Enter one before pricing in ${to}.`,
      { from, to },
    );
  }

  /** The sum in another currency, rounded half up to its minor unit once. Throws `rate-missing`. */
  convert(sum: Money, to: string): Money {
    if (sum.currency === to) return sum;
    const { num, den } = this.find(sum.currency, to).fraction;
    const shift = minorDigits(to) - minorDigits(sum.currency);
    let n = BigInt(Math.abs(sum.amountMinor)) * num;
    let d = den;
    if (shift >= 0) n *= 10n ** BigInt(shift);
    else d *= 10n ** BigInt(-shift);
    const rounded = Number((2n * n + d) / (2n * d));
    return { amountMinor: sum.amountMinor < 0 ? -rounded : rounded, currency: to };
  }
}
