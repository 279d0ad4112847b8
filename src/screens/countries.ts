const names = new Intl.DisplayNames('en', { type: 'region' });

/** Destinations that a seller asks about first. */
export const DESTINATIONS = ['GB', 'US', 'CA', 'DE', 'FR', 'NL', 'IE', 'AU', 'JP'] as const;

export const countryName = (code: string): string => names.of(code) ?? code;

export const destinationChoices = (first: string): { value: string; name: string }[] =>
  [...new Set([first, ...DESTINATIONS])].map((code) => ({ value: code, name: countryName(code) }));
