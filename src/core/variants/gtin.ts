import { invalid } from '../errors';

/**
 * Check digit of a GTIN's other digits (GS1 General Specifications, section 7.9): from the right, digits count 3, 1, 3, 1 …; the check digit brings the
 * sum to a multiple of ten.
 */
export function gtinCheckDigit(digits: string): number {
  let sum = 0;
  for (let i = 0; i < digits.length; i += 1) sum += Number(digits[digits.length - 1 - i]) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

const LENGTHS = [8, 12, 13, 14];

/** Reads a GTIN of 8, 12, 13 or 14 digits, spaces and hyphens aside. Throws `gtin-invalid` with what is wrong. */
export function parseGtin(typed: string): string {
  const digits = typed.replace(/[\s-]/g, '');
  if (!/^\d+$/.test(digits)) throw invalid('gtin-invalid', `“${typed}” is not a GTIN: it has digits only.`);
  if (!LENGTHS.includes(digits.length))
    throw invalid('gtin-invalid', `“${typed}” has ${digits.length} digits; a GTIN has 8, 12, 13 or 14.`);
  const want = gtinCheckDigit(digits.slice(0, -1));
  if (Number(digits.at(-1)) !== want)
    throw invalid(
      'gtin-invalid',
      `“${typed}” does not check: its last digit should be ${want}. A digit may be mistyped, or two exchanged.`,
    );
  return digits;
}
