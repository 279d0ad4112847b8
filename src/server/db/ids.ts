import { customAlphabet } from 'nanoid';

// No look-alikes and no dashes: ids are read aloud, typed and double-clicked.
const make = customAlphabet('23456789abcdefghjkmnpqrstuvwxyz', 16);

/** A new random id with a letter in front that says what it is for: `p` product, `a` artwork, … About 79 bits. */
export const newId = (prefix: string): string => `${prefix}${make()}`;
