const LETTERS = ['XXS', 'XS', 'S', 'M', 'L', 'XL', 'XXL', '2XL', '3XL', '4XL', '5XL'];

/** Sorts names of sizes as a person would: letters by the run of sizes, then by the first number in them, then by name. */
export function compareSizes(one: string, two: string): number {
  const [a, b] = [LETTERS.indexOf(one.toUpperCase()), LETTERS.indexOf(two.toUpperCase())];
  if (a >= 0 || b >= 0) return a >= 0 && b >= 0 ? a - b : a >= 0 ? -1 : 1;
  const number = (name: string) => Number(/\d+(\.\d+)?/.exec(name)?.[0] ?? Infinity);
  const unit = (name: string) => name.replace(/[\d.–\-\s×x]+/g, '');
  return unit(one).localeCompare(unit(two), 'en') || number(one) - number(two) || one.localeCompare(two, 'en');
}
