import { canonicalJson, sha256Hex } from '../canonical/canonical';
import type { ListingForm } from './form';

/** What was made of forms, which do not change: each is written down and compared several times on its way. */
const texts = new WeakMap<ListingForm, { readonly json: string; readonly hash: string }>();

function textOf(form: ListingForm) {
  const have = texts.get(form);
  if (have) return have;
  const json = canonicalJson(form);
  const text = { json, hash: sha256Hex(json) };
  texts.set(form, text);
  return text;
}

/** A form's canonical JSON text. */
export const formJson = (form: ListingForm): string => textOf(form).json;

/** Hash of a form by content. */
export const formHash = (form: ListingForm): string => textOf(form).hash;
