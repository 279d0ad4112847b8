const names = new Intl.DisplayNames('en', { type: 'region' });

/** A country (ISO 3166 alpha-2) by its English name; the code itself where it has none. */
export const countryName = (code: string): string => names.of(code) ?? code;
