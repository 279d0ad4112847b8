/** Most thread colors of one embroidered area (common practice, no source). */
export const MAX_THREADS = 6;
