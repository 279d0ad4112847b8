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
