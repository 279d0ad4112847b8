/** Blanks that can be compared at once. */
export const MAX_COMPARED = 4;
