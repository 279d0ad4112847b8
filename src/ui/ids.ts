import { customAlphabet } from 'nanoid';

/** Ids of things that are made in the browser: 12 letters and digits that are not taken for one another. */
export const newId = customAlphabet('23456789abcdefghjkmnpqrstvwxyz', 12);
