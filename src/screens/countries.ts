import { countryName } from '@/core/country-names';

/** Destinations that a seller asks about first. */
export const DESTINATIONS = ['GB', 'US', 'CA', 'DE', 'FR', 'NL', 'IE', 'AU', 'JP'] as const;

export const destinationChoices = (first: string): { value: string; name: string }[] =>
  [...new Set([first, ...DESTINATIONS])].map((code) => ({ value: code, name: countryName(code) }));

/** Codes that have a name and are no country that a parcel goes to: unions, withdrawn, reserved and test codes. */
const NO_COUNTRY = new Set(
  'AC AN BU CP CQ CS DD DG DY EA EU EZ FX HV IC NH NT QO RH SU TA TP UK UN VD XA XB YD YU ZR ZZ'.split(' '),
);

/** Every country by name, those asked about first at the top. */
export function allDestinations(first: string): { value: string; name: string }[] {
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
  const usual = destinationChoices(first);
  const others = letters
    .flatMap((a) => letters.map((b) => a + b))
    .filter((code) => !NO_COUNTRY.has(code) && countryName(code) !== code)
    .map((value) => ({ value, name: countryName(value) }))
    .filter(({ value }) => !usual.some((choice) => choice.value === value));
  return [...usual, ...others.sort((a, b) => a.name.localeCompare(b.name, 'en'))];
}
