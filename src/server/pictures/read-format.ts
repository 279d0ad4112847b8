import { invalid } from '@/core/errors';
import { OWN_FORMAT, PICTURE_FORMATS, type PictureFormat } from '@/core/listing/picture-format';

/** Longest side that can be asked for, px. */
const MAX_SIDE_PX = 8000;

const whole = (query: URLSearchParams, name: string, least: number, most: number): number | null => {
  const text = query.get(name);
  if (text === null || text === '') return null;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least || value > most)
    throw invalid(
      'form-invalid',
      `“${name}” must be a whole number from ${least} to ${most}; it is “${text.slice(0, 20)}”.`,
    );
  return value;
};

/** The longest side that is asked for, px; null for none. */
export const readSide = (query: URLSearchParams): number | null => whole(query, 'side', 64, MAX_SIDE_PX);

/** The form that a download asks for: `format=jpeg|png|webp`, `side` (px), `square=yes` with `on=#rrggbb`, `white=yes`, `max` (bytes). */
export function readPictureFormat(query: URLSearchParams): PictureFormat {
  const format = query.get('format') ?? OWN_FORMAT.format;
  if (!(PICTURE_FORMATS as readonly string[]).includes(format))
    throw invalid(
      'form-invalid',
      `Pictures are made as ${PICTURE_FORMATS.join(', ')}; “${format.slice(0, 20)}” is none of them.`,
    );
  const on = query.get('on') ?? '#ffffff';
  if (!/^#[0-9a-fA-F]{6}$/.test(on))
    throw invalid('form-invalid', `“${on.slice(0, 20)}” is not a color; the ground of a square looks like #ffffff.`);
  return {
    format: format as PictureFormat['format'],
    longSideMaxPx: readSide(query),
    squareOn: query.get('square') === 'yes' ? on.toLowerCase() : null,
    pureWhite: query.get('white') === 'yes',
    maxBytes: whole(query, 'max', 10_000, 100_000_000),
  };
}
