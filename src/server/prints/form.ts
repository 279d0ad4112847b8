import { invalid } from '@/core/errors';
import { PRINT_FORMS, type PrintForm } from './print-files';

/** The form that an address asks for; PNG when it asks for none. Throws `form-unknown`. */
export function readForm(query: URLSearchParams): PrintForm {
  const asked = query.get('form') ?? 'png';
  const form = PRINT_FORMS.find((one) => one === asked);
  if (!form) throw invalid('form-unknown', `Print files come as ${PRINT_FORMS.join(' or ')}, not as "${asked}".`);
  return form;
}
