export interface CountryLook {
  readonly label: string;
  /** ISO 3166 alpha-2. */
  readonly value: string;
  readonly choices: readonly { readonly value: string; readonly name: string }[];
  readonly onChange: (value: string) => void;
}

/** How the field looks, before and after its list is there. */
export const COUNTRY_FRAME =
  'inline-flex items-center border-b border-edge hover:border-muted focus-within:border-primary';
export const COUNTRY_INPUT = 'w-36 min-h-6 bg-transparent text-small px-0.5';
