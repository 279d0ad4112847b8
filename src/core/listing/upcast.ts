import { TypicaError } from '../errors';
import { FORM_FORMAT, type ListingForm } from './form';

interface AnyForm {
  readonly format: number;
  readonly [member: string]: unknown;
}

/** A step by which a form gets fields that were nothing before, and its variants theirs. */
const gains =
  (format: number, fields: object, ofVariant: object = {}) =>
  (form: AnyForm): AnyForm => ({
    ...form,
    ...fields,
    format,
    variants: Object.fromEntries(
      Object.entries(form.variants as { [key: string]: object }).map(([key, variant]) => [
        key,
        { ...variant, ...ofVariant },
      ]),
    ),
  });

/** By the format that it starts from: what brings a stored form one format further. Each field that is added adds its step here. */
const STEPS: ReadonlyMap<number, (form: AnyForm) => AnyForm> = new Map([
  // Prices got one to compare with.
  [1, gains(2, {}, { compareAtMinor: null })],
  // Shops that have a tree of places, and ask by place.
  [2, gains(3, { category: null, attributes: {}, terms: {} })],
  [3, gains(4, {}, { gtin: null })],
  [4, gains(5, {}, { grams: null })],
  [5, gains(6, { highlights: [] })],
  [6, gains(7, { pageAddress: null, seo: null })],
  [7, gains(8, { collections: [] })],
  // A shop's own names for colors.
  [8, gains(9, {}, { shade: null })],
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
