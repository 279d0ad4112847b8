/** The form in which a picture goes out: to a shop, or as a download. */
export interface PictureFormat {
  readonly format: 'jpeg' | 'png' | 'webp';
  /** Longest side at most, px; null for as large as the shot. */
  readonly longSideMaxPx: number | null;
  /** Filled up to a square with this color, `#rrggbb`; null keeps the picture's own shape. */
  readonly squareOn: string | null;
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

export const MEDIA_TYPES = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' } as const;
export const EXTENSIONS = { jpeg: 'jpg', png: 'png', webp: 'webp' } as const;
