/** Families by which colors are filtered, in the order in which they are offered. */
export const COLOR_FAMILIES = [
  'white',
  'natural',
  'gray',
  'black',
  'brown',
  'red',
  'orange',
  'yellow',
  'green',
  'teal',
  'blue',
  'purple',
  'pink',
] as const;
export type ColorFamily = (typeof COLOR_FAMILIES)[number];

/** Colors that anyone would call by the family's name, light to dark; chosen by eye, no source. */
export const FAMILY_COLORS: { readonly [family in ColorFamily]: readonly string[] } = {
  white: ['#ffffff', '#f6f4ee'],
  natural: ['#e6dcc6', '#d2bf9c'],
  gray: ['#c4c7ca', '#8c9095', '#55595e'],
  black: ['#232529', '#000000'],
  brown: ['#a97142', '#6b4423', '#3f2a1d'],
  red: ['#e0453a', '#b01e2a', '#7a2a33'],
  orange: ['#f59a3c', '#e06a1a'],
  yellow: ['#f7e07a', '#f2c41d', '#c9981c'],
  green: ['#a6c48a', '#3f8f4a', '#56663f', '#1f4d36'],
  teal: ['#8fc9c4', '#2d8080', '#2d4a53'],
  blue: ['#9cc3e6', '#2b65c4', '#1f3a6e', '#16243d'],
  purple: ['#b79bd0', '#6a3f98', '#3d2558'],
  pink: ['#f3c9d3', '#e58fa8', '#d6336c'],
};
