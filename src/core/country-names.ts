const names = new Intl.DisplayNames('en', { type: 'region' });

/** A country (ISO 3166 alpha-2) by its English name, a state of it (ISO 3166-2) by the country and its code; the code itself where it has none. */
export function countryName(code: string): string {
  const [country, state] = code.split('-');
  return `${names.of(country!) ?? country}${state ? `, ${state}` : ''}`;
}
