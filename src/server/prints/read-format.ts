import { invalid } from '@/core/errors';
import { PRINT_FORMATS, type PrintFormat } from './print-files';

/** The form that an address asks for; PNG when it asks for none. Throws `form-unknown`. */
export function readPrintFormat(query: URLSearchParams): PrintFormat {
  const asked = query.get('form') ?? 'png';
  const form = PRINT_FORMATS.find((one) => one === asked);
  if (!form) throw invalid('form-unknown', `Print files come as ${PRINT_FORMATS.join(' or ')}, not as “${asked}”.`);
  return form;
}
