/** Languages in which a store's words can be, BCP 47: those that the channels' countries speak. */
export const LANGUAGES = [
  'en-GB',
  'en-US',
  'de',
  'fr',
  'es',
  'it',
  'nl',
  'pt',
  'pl',
  'sv',
  'da',
  'fi',
  'nb',
  'ja',
] as const;

const NAMES = new Intl.DisplayNames('en', { type: 'language' });

/** A language as it is called in English: `British English`. */
export const languageName = (code: string): string => NAMES.of(code) ?? code;
