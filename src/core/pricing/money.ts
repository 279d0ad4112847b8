import { invalid } from '../errors';

/** A sum of money: whole minor units of an ISO 4217 currency. Never a fraction. */
export interface Money {
  readonly amountMinor: number;
  readonly currency: string;
}

export const money = (amountMinor: number, currency: string): Money => ({ amountMinor, currency });

/** ISO 4217 codes that nobody can pay with: metals, funds, tests. */
const NO_MONEY = new Set(
  'XAG XAU XBA XBB XBC XBD XDR XPD XPT XSU XTS XUA XXX BOV CHE CHW CLF COU MXV USN UYI UYW'.split(' '),
);
const currencies = new Set(Intl.supportedValuesOf('currency').filter((code) => !NO_MONEY.has(code)));

/** Whether there is money of this code (ISO 4217, in capitals). */
/** All of them, in order of their codes. */
export const currencyCodes = (): string[] => [...currencies].sort();

export const isCurrency = (code: string): boolean => currencies.has(code);

// The runtime takes 50 µs to answer, and prices ask for each amount.
const digitsOf = new Map<string, number>();

/** Decimal digits of a currency's minor unit by the runtime's ISO 4217 table: JPY 0, USD 2, KWD 3. Throws `currency-unknown`. */
export function minorDigits(currency: string): number {
  const known = digitsOf.get(currency);
  if (known !== undefined) return known;
  if (!/^[A-Z]{3}$/.test(currency))
    throw invalid('currency-unknown', `“${currency}” is not a currency code; it has three letters, such as USD.`);
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

/** No price above this: a hundred million minor units. */
export const MAX_RETAIL_MINOR = 100_000_000;

/** Parts per million: the exact form of a percentage. 2.9 % is 29 000. */
export const PPM = 1_000_000;

/** Reads a percentage typed as a decimal (`2.9`, `40`, `12,5`) into parts per million. Throws `percent-unreadable`. */
export function parsePercentPpm(text: string): number {
  const match = /^([+-]?)(\d{1,6})(?:[.,](\d{1,4}))?\s*%?$/.exec(text.trim());
  if (!match)
    throw invalid(
      'percent-unreadable',
      `“${text}” is not a percentage. Type a number with up to four decimals, such as 40 or 2.9.`,
    );
  const ppm = Number(match[2]) * 10_000 + Number((match[3] ?? '').padEnd(4, '0'));
  return match[1] === '-' ? -ppm : ppm;
}

const unreadable = (says: string) => invalid('amount-unreadable', says);

/** Signs of currencies that stand for one of them only where prices are in it. */
const signs = new Map<string, readonly string[]>();
function signsOf(currency: string): readonly string[] {
  let known = signs.get(currency);
  if (!known) {
    const sign = (currencyDisplay: 'symbol' | 'narrowSymbol') =>
      new Intl.NumberFormat('en', { style: 'currency', currency, currencyDisplay })
        .formatToParts(1)
        .find(({ type }) => type === 'currency')!.value;
    signs.set(currency, (known = [currency, sign('symbol'), sign('narrowSymbol')]));
  }
  return known;
}

/** The number without the sign of its currency; as it is where another one stands there. */
function withoutSign(text: string, currency: string): string {
  for (const sign of signsOf(currency)) {
    if (text.startsWith(sign)) return text.slice(sign.length).trim();
    if (text.endsWith(sign)) return text.slice(0, -sign.length).trim();
  }
  return text;
}

/** Spaces and apostrophes between groups of three digits. */
const SPACED = /^\d{1,3}(?:[ \u00a0\u2009\u202f'’]\d{3})+(?=$|[.,])/;
const GROUPED = { ',': /^\d{1,3}(?:,\d{3})+$/, '.': /^\d{1,3}(?:\.\d{3})+$/ } as const;

/**
 * Whole and decimal digits of a number in which a point or a comma can stand for decimals or between thousands: read where it can mean one thing
 * only. Null for what is no number; throws a sentence where it could mean two.
 */
function digitsOfNumber(
  text: string,
  decimalsMost: number,
  currency: string,
): [whole: string, decimals: string] | null {
  const bare = text.replace(SPACED, (groups) => groups.replace(/\D/g, ''));
  const match = /^([\d.,]*?)(?:([.,])(\d*))?$/.exec(bare);
  if (!match) return null;
  const [, head = '', , tail = ''] = match;
  const sign = match[2] as ',' | '.' | undefined;
  if (sign === undefined) return /^\d+$/.test(head) ? [head, ''] : null;
  const other = sign === '.' ? ',' : '.';
  // `1,234.56`: one sign between thousands, the other before decimals.
  if (head.includes(other)) return GROUPED[other].test(head) && tail !== '' ? [head.replaceAll(other, ''), tail] : null;
  // `1,234,567`: twice the same can only stand between thousands.
  if (head.includes(sign))
    return GROUPED[sign].test(`${head}${sign}${tail}`) ? [head.replaceAll(sign, '') + tail, ''] : null;
  if (!/^\d+$/.test(head) || tail === '') return null;
  const thousands = head.length <= 3 && tail.length === 3 && !head.startsWith('0');
  if (!thousands || (decimalsMost === 3 && sign === '.')) return [head, tail];
  if (decimalsMost === 0) return [head + tail, ''];
  throw unreadable(
    `“${text}” can mean ${head}${tail} or ${head}.${tail} in ${currency}: write it without a sign between thousands.`,
  );
}

/**
 * Reads a typed amount (`12.50`, `12,50`, `1 000`, `1,234.56`, `€12`, `USD 12.50`) into minor units of `currency`. What can mean two sums is
 * refused, and so are more decimals than the currency has. Throws `amount-unreadable` with a sentence.
 */
export function parseAmountMinor(text: string, currency: string): number {
  const digits = minorDigits(currency);
  const signed = withoutSign(text.trim(), currency);
  const negative = /^[-−]/.test(signed);
  const bare = withoutSign(signed.replace(/^[-−+]/, '').trim(), currency);
  const parts = bare.length <= 24 ? digitsOfNumber(bare, digits, currency) : null;
  if (!parts || parts[0].length > 9)
    throw unreadable(`“${text.slice(0, 40)}” is not an amount. Type a number such as ${digits ? '12.50' : '1250'}.`);
  const [whole, decimals] = parts;
  if (decimals.length > digits)
    throw unreadable(`“${text}” has ${decimals.length} decimals; ${currency} has ${digits}.`);
  const amount = Number(whole) * 10 ** digits + Number(decimals.padEnd(digits, '0') || '0');
  return negative && amount > 0 ? -amount : amount;
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
