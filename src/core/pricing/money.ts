import { invalid } from '../errors';

/** A sum of money: whole minor units of an ISO 4217 currency. Never a fraction. */
export interface Money {
  readonly amountMinor: number;
  readonly currency: string;
}

export const money = (amountMinor: number, currency: string): Money => ({ amountMinor, currency });

// The runtime takes 50 µs to answer, and prices ask for each amount.
const digitsOf = new Map<string, number>();

/** Decimal digits of a currency's minor unit by the runtime's ISO 4217 table: JPY 0, USD 2, KWD 3. Throws `currency-unknown`. */
export function minorDigits(currency: string): number {
  const known = digitsOf.get(currency);
  if (known !== undefined) return known;
  if (!/^[A-Z]{3}$/.test(currency))
    throw invalid('currency-unknown', `"${currency}" is not a currency code; it has three letters, such as USD.`);
  const digits =
    new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
  digitsOf.set(currency, digits);
  return digits;
}

/**
 * a × b ÷ c as a whole number, rounded half away from zero (the trade's rounding) or `up` (away from zero, so that a charge is
 * never short). Exact for any size: it goes through BigInt where a product leaves the safe range.
 */
export function mulDiv(a: number, b: number, c: number, rounding: 'half' | 'up' = 'half'): number {
  const product = a * b;
  if (Number.isSafeInteger(product) && Number.isSafeInteger(2 * product)) {
    const sign = Math.sign(product) * Math.sign(c);
    const n = Math.abs(product);
    const d = Math.abs(c);
    const whole = Math.floor(n / d);
    const rest = n - whole * d;
    const more = rounding === 'half' ? rest * 2 >= d : rest > 0;
    return sign * (whole + (more ? 1 : 0)) + 0;
  }
  const n = BigInt(a) * BigInt(b);
  const d = BigInt(c);
  const negative = n < 0n !== d < 0n;
  const an = n < 0n ? -n : n;
  const ad = d < 0n ? -d : d;
  const rest = an % ad;
  const whole = an / ad + ((rounding === 'half' ? rest * 2n >= ad : rest > 0n) ? 1n : 0n);
  return Number(negative ? -whole : whole);
}

/** Parts per million: the exact form of a percentage. 2.9 % is 29 000. */
export const PPM = 1_000_000;

/** Reads a percentage typed as a decimal (`2.9`, `40`, `12,5`) into parts per million. Throws `percent-unreadable`. */
export function parsePercentPpm(text: string): number {
  const match = /^([+-]?)(\d{1,6})(?:[.,](\d{1,4}))?\s*%?$/.exec(text.trim());
  if (!match)
    throw invalid(
      'percent-unreadable',
      `"${text}" is not a percentage. Type a number with up to four decimals, such as 40 or 2.9.`,
    );
  const ppm = Number(match[2]) * 10_000 + Number((match[3] ?? '').padEnd(4, '0'));
  return match[1] === '-' ? -ppm : ppm;
}

/**
 * Reads a typed amount (`12.50`, `12,50`, `12`, `USD 12.50`) into minor units of `currency`.
 * Throws `amount-unreadable` with a sentence; more decimals than the currency has are refused, not rounded.
 */
export function parseAmountMinor(text: string, currency: string): number {
  const digits = minorDigits(currency);
  const bare = text.trim().replace(currency, '').trim();
  const match = /^([+-]?)(\d{1,9})(?:[.,](\d+))?$/.exec(bare);
  if (!match)
    throw invalid(
      'amount-unreadable',
      `"${text}" is not an amount. Type a number such as ${digits ? '12.50' : '1250'}.`,
    );
  const decimals = match[3] ?? '';
  if (decimals.length > digits) {
    throw invalid('amount-unreadable', `"${text}" has ${decimals.length} decimals; ${currency} has ${digits}.`);
  }
  const amount = Number(match[2]) * 10 ** digits + Number(decimals.padEnd(digits, '0') || '0');
  return match[1] === '-' ? -amount : amount;
}

/** The amount as plain decimal text without the currency: 2150 USD is `21.50`. */
export function formatAmount({ amountMinor, currency }: Money): string {
  const digits = minorDigits(currency);
  const sign = amountMinor < 0 ? '−' : '';
  const text = String(Math.abs(amountMinor)).padStart(digits + 1, '0');
  return sign + (digits === 0 ? text : `${text.slice(0, -digits)}.${text.slice(-digits)}`);
}

/** The amount with its currency: `21.50 USD`. */
export const formatMoney = (m: Money): string => `${formatAmount(m)} ${m.currency}`;

/** Parts per million as a percentage with one decimal: 269 000 is `26.9 %`. */
export const formatPercent = (ppm: number, decimals = 1): string =>
  `${(ppm / 10_000).toFixed(decimals).replace('-', '−')} %`;
