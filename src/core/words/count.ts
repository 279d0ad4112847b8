/** `1 product`, `2 products`, `1,200 products`. */
export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;
