import { TypicaError } from '../errors';
import { FORM_FORMAT, type ListingForm } from './form';

interface AnyForm {
  readonly format: number;
  readonly [member: string]: unknown;
}

/** By the format that it starts from: what brings a stored form one format further. Each field that is added adds its step here. */
const STEPS: ReadonlyMap<number, (form: AnyForm) => AnyForm> = new Map([
  [
    1,
    // Prices got one to compare with: nothing was shown before.
    (form) => ({
      ...form,
      format: 2,
      variants: Object.fromEntries(
        Object.entries(form.variants as { [key: string]: object }).map(([key, variant]) => [
          key,
          { ...variant, compareAtMinor: null },
        ]),
      ),
    }),
  ],
]);

/** A stored form in the newest format, so that what was agreed reads as agreed. Throws `form-unknown` for one that is newer than this program. */
export function upcast(stored: unknown): ListingForm {
  let form = stored as AnyForm;
  while (form.format !== FORM_FORMAT) {
    const step = STEPS.get(form.format);
    if (!step)
      throw new TypicaError(
        'bug',
        'form-unknown',
        `a listing is stored in format ${String(form.format)}, which is not known`,
      );
    form = step(form);
  }
  return form as unknown as ListingForm;
}
