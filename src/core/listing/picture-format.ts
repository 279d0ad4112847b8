import { contentHash } from '../canonical/canonical';

/** The form in which a picture goes out: to a shop, or as a download. */
export interface PictureFormat {
  readonly format: 'jpeg' | 'png' | 'webp';
  /** Longest side at most, px; null for as large as the shot. */
  readonly longSideMaxPx: number | null;
  /** Filled up to a square with this color, `#rrggbb`; null keeps the picture's own shape. */
  readonly squareOn: string | null;
  /** Where it is to be square: cut down to one about its middle, not filled up. */
  readonly cropped?: true;
  /** Everything that is not the good is pure white. */
  readonly pureWhite: boolean;
  /** Weight limit; quality is lowered, then size, until it is kept. Null for none. */
  readonly maxBytes: number | null;
}

export const PICTURE_FORMATS = ['jpeg', 'png', 'webp'] as const;

/** What is shown and kept here: as large as the shot. */
export const OWN_FORMAT: PictureFormat = {
  format: 'jpeg',
  longSideMaxPx: null,
  squareOn: null,
  pureWhite: false,
  maxBytes: null,
};

/** How a store makes pictures square where its channel wants them so. */
export const SQUARES = ['margin', 'crop'] as const;
export type Squares = (typeof SQUARES)[number];

/** A channel's form of pictures, made square as the store says. */
export const squaredBy = (form: PictureFormat, squares: Squares = 'margin'): PictureFormat =>
  squares === 'crop' && form.squareOn !== null ? { ...form, cropped: true } : form;

/** The form in which a store takes the picture at a place of a listing's pictures; 0 is the first. */
export const formatAt = (
  { pictureFormat, firstOnWhite }: { readonly pictureFormat: PictureFormat; readonly firstOnWhite: boolean },
  place: number,
): PictureFormat => ({ ...pictureFormat, pureWhite: pictureFormat.pureWhite || (firstOnWhite && place === 0) });

/** The key of a picture in a form: what is cut down shows something else than the whole of it. */
export const keyInForm = (
  key: string,
  size: { readonly widthPx: number; readonly heightPx: number },
  form: PictureFormat,
): string => (form.cropped && size.widthPx !== size.heightPx ? contentHash({ picture: key, square: 'crop' }) : key);

/** Longer side of a picture of that size as it goes out, px. */
export function longSideInForm(
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  form: PictureFormat,
): number {
  const own = form.cropped ? Math.min(widthPx, heightPx) : Math.max(widthPx, heightPx);
  return Math.min(own, form.longSideMaxPx ?? own);
}

export const MEDIA_TYPES = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' } as const;
export const EXTENSIONS = { jpeg: 'jpg', png: 'png', webp: 'webp' } as const;
