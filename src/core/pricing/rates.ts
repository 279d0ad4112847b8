import { isTypicaError, TypicaError } from '../errors';
import { minorDigits, PPM, type Money } from './money';

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
    throw new TypicaError('invalid', 'rate-unreadable', `“${rate}” is not an exchange rate above zero.`);
  const decimals = match[2] ?? '';
  return { num: BigInt(match[1]! + decimals), den: 10n ** BigInt(decimals.length) };
}

/** A conversion made ready: amount × n ÷ d, both as BigInt and, where they are small, as numbers. */
interface Conversion {
  readonly num: bigint;
  readonly den: bigint;
  readonly n: number;
  readonly d: number;
}

/**
 * A table of dated rates that answers with the newest rate for a pair, straight, reversed, or over one currency in between. `marginPpm` is
 * added to what costs are converted at, so that a rate that moves a little does not turn a profit into a loss.
 */
export class RateTable {
  private readonly pairs = new Map<string, { fraction: Fraction; date: string }>();
  private readonly currencies = new Set<string>();
  private readonly ready = new Map<string, Conversion>();

  constructor(
    rates: readonly ExchangeRate[],
    readonly marginPpm = 0,
  ) {
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
      `There is no exchange rate from ${from} to ${to}. Enter one under Rates and rules before pricing in ${to}.`,
      { from, to },
    );
  }

  /** The day of the rate that one currency is turned into another at (of its older part, over a third one); null where none is needed or there is none. */
  dayOf(from: string, to: string): string | null {
    return from === to || this.about(from, to) === null ? null : this.find(from, to).date;
  }

  /** The rate as a number, for comparing; null where there is none. */
  about(from: string, to: string): number | null {
    try {
      const { num, den } = this.find(from, to).fraction;
      return Number((num * 10n ** 12n) / den) / 1e12;
    } catch (error) {
      if (isTypicaError(error, 'rate-missing')) return null;
      throw error;
    }
  }

  private conversion(from: string, to: string, marginPpm: number): Conversion {
    const key = `${from}${to}${marginPpm}`;
    const known = this.ready.get(key);
    if (known) return known;
    let { num, den } = this.find(from, to).fraction;
    const shift = minorDigits(to) - minorDigits(from);
    if (shift >= 0) num *= 10n ** BigInt(shift);
    else den *= 10n ** BigInt(-shift);
    num *= BigInt(PPM + marginPpm);
    den *= BigInt(PPM);
    const by = gcd(num, den);
    [num, den] = [num / by, den / by];
    const small = num < 1_000_000_000n && den < 1_000_000_000n;
    const made = { num, den, n: small ? Number(num) : 0, d: small ? Number(den) : 0 };
    this.ready.set(key, made);
    return made;
  }

  private converted(amountMinor: number, { num, den, n, d }: Conversion): number {
    const size = Math.abs(amountMinor);
    let rounded: number;
    if (n > 0 && size * n * 2 + d < 2 ** 51) rounded = Math.floor((2 * size * n + d) / (2 * d));
    else rounded = Number((2n * BigInt(size) * num + den) / (2n * den));
    return amountMinor < 0 ? -rounded : rounded;
  }

  /** The sum in another currency at the plain rate, rounded half away from zero to its minor unit once. Throws `rate-missing`. */
  convert(sum: Money, to: string): Money {
    if (sum.currency === to) return sum;
    return { amountMinor: this.converted(sum.amountMinor, this.conversion(sum.currency, to, 0)), currency: to };
  }

  /** The same for what is to be paid: with the safety margin. A sum that needs no conversion has none. */
  convertCost(sum: Money, to: string): Money {
    if (sum.currency === to) return sum;
    return {
      amountMinor: this.converted(sum.amountMinor, this.conversion(sum.currency, to, this.marginPpm)),
      currency: to,
    };
  }
}

function gcd(a: bigint, b: bigint): bigint {
  while (b > 0n) [a, b] = [b, a % b];
  return a;
}
