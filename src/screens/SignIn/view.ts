import countryToCurrency from 'country-to-currency';
import { ownEntry, putEntry } from '@/core/own-entry';
import { isCurrency } from '@/core/pricing/money';
import { Problem } from '@/ui/api';

/** What is wrong with a form: at its fields, and what concerns none of them. */
export interface Faults<Form> {
  readonly all: string | null;
  readonly at: { readonly [Key in keyof Form]?: string };
}

/** The currency in which a country counts; the pound where that is not known. */
export function currencyOf(country: string): string {
  const code = ownEntry(countryToCurrency as Record<string, string>, country);
  return code !== undefined && isCurrency(code) ? code : 'GBP';
}

/** A refusal of the API by the fields that it names; whole where it names none that the form has. */
export function faultsOf<Form>(problem: Error, fields: readonly string[]): Faults<Form> {
  const told =
    problem instanceof Problem ? (problem.fields.faults as { path: string; says: string }[] | undefined) : [];
  const at: Record<string, string> = {};
  for (const { path, says } of told ?? []) {
    const field = path.slice(1);
    if (fields.includes(field) && !Object.hasOwn(at, field)) putEntry(at, field, `${says}.`);
  }
  return { all: Object.keys(at).length > 0 ? null : problem.message, at: at as Faults<Form>['at'] };
}
