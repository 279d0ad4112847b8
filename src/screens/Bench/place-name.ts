import { formatAmount, money } from '@/core/pricing/money';

const WORDS = new Map([
  ['title', 'Title'],
  ['description', 'Description'],
  ['tags', 'Tags'],
  ['text', 'Text'],
  ['sku', 'SKU'],
  ['gtin', 'GTIN'],
  ['placement', 'Where the layer sits'],
  ['xMm', 'Where the layer sits, across'],
  ['yMm', 'Where the layer sits, down'],
  ['widthMm', 'How wide the layer is'],
  ['rotationDeg', 'How the layer is turned'],
  ['hidden', 'Whether the layer is hidden'],
  ['locked', 'Whether the layer is locked'],
  ['aim', 'Price'],
  ['ppm', 'Price'],
  ['amountMinor', 'Price'],
  ['kind', 'What the price aims at'],
  ['ending', 'Ending'],
  ['shipping', 'Shipping'],
  ['variants', 'Colors and sizes'],
  ['pictures', 'Pictures'],
  ['areas', 'Artwork'],
  ['words', 'Words'],
  ['price', 'Price'],
]);

/** Names a place in the document (a JSON pointer) for a person. */
export function placeName(path: string): string {
  const parts = path.split('/').slice(1);
  if (parts[0] === 'variants' && parts[1]) {
    const values = parts[1].split(';').map((pair) => pair.split('=')[1]);
    const code = parts.length > 2 ? WORDS.get(parts.at(-1)!) : undefined;
    return [`Variant ${values.join(', ')}`, code].filter(Boolean).join(': ');
  }
  return WORDS.get(parts.at(-1) ?? '') ?? WORDS.get(parts[0] ?? '') ?? parts.join(' ');
}

const NUMBERS = new Map([
  ['xMm', 'mm'],
  ['yMm', 'mm'],
  ['widthMm', 'mm'],
  ['sizeMm', 'mm'],
  ['rotationDeg', '°'],
]);
const INNER = new Map([
  ['xMm', 'across'],
  ['yMm', 'down'],
  ['widthMm', 'width'],
  ['rotationDeg', 'turned'],
  ['flipX', 'mirrored'],
  ['flipY', 'upside down'],
]);

/** What stands at a place, for a person: amounts and shares as such, a placement in mm. */
export function placeValue(path: string, value: unknown, currency: string): string {
  if (value === undefined) return '(not there)';
  if (value === null) return '(none)';
  if (typeof value === 'string') return value || '(empty)';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const leaf = path.split('/').at(-1) ?? '';
  if (typeof value === 'number') {
    if (leaf === 'ppm' || leaf.endsWith('Ppm')) return `${value / 10_000} %`;
    if (leaf.endsWith('Minor')) return `${formatAmount(money(value, currency))} ${currency}`;
    return `${value}${NUMBERS.has(leaf) ? ` ${NUMBERS.get(leaf)}` : ''}`;
  }
  const entries = Object.entries(value as object).filter(([, one]) => one !== null && one !== false);
  if (entries.length === 0) return '(none)';
  const known = entries.filter(([key]) => INNER.has(key));
  if (known.length > 0)
    return known.map(([key, one]) => `${INNER.get(key)} ${placeValue(`/${key}`, one, currency)}`).join(', ');
  const { kind, amountMinor, ppm, name, text } = value as { [key: string]: unknown };
  if (typeof amountMinor === 'number') return `${String(kind)} ${placeValue('/amountMinor', amountMinor, currency)}`;
  if (typeof ppm === 'number') return `${String(kind)} ${placeValue('/ppm', ppm, currency)}`;
  if (typeof text === 'string') return text;
  if (typeof name === 'string') return name;
  return `${entries.length} ${entries.length === 1 ? 'entry' : 'entries'}`;
}

/** Where a text differs from another one: from the first letter that is not the same to the last. */
export function differing(text: string, other: string): [from: number, to: number] {
  const most = Math.min(text.length, other.length);
  let from = 0;
  while (from < most && text[from] === other[from]) from += 1;
  let back = 0;
  while (back < most - from && text[text.length - 1 - back] === other[other.length - 1 - back]) back += 1;
  return [from, text.length - back];
}
