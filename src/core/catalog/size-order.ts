const LETTERS = ['XXS', 'XS', 'S', 'M', 'L', 'XL', 'XXL', '2XL', '3XL', '4XL', '5XL'];

/** Sheets of the A series (ISO 216), where the higher number is the smaller sheet. */
const SHEET = /^A\d{1,2}$/;

/** Sorts names of sizes as a person would, small before large: letters by the run of sizes, others by unit and the first number in them, then by name. */
export function compareSizes(one: string, two: string): number {
  const [a, b] = [LETTERS.indexOf(one.toUpperCase()), LETTERS.indexOf(two.toUpperCase())];
  if (a >= 0 || b >= 0) return a >= 0 && b >= 0 ? a - b : a >= 0 ? -1 : 1;
  const number = (name: string) => Number(/\d+(\.\d+)?/.exec(name)?.[0] ?? Infinity);
  const unit = (name: string) => name.replace(/[\d.–\-\s×x]+/g, '');
  if (SHEET.test(one) && SHEET.test(two)) return number(two) - number(one);
  return unit(one).localeCompare(unit(two), 'en') || number(one) - number(two) || one.localeCompare(two, 'en');
}
