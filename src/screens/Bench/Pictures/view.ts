import { colorOption, type Blank } from '@/core/catalog/blank';
import type { Picture } from '@/core/document/document';
import { pictureOfColor } from '@/core/listing/form';
import { subjectOf } from '@/bench/picturing';
import type { BenchShot, PictureView } from '../load';

/** A picture as the part shows it. */
export interface PictureTile {
  readonly subject: string;
  readonly number: number;
  readonly name: string;
  readonly color: string | null;
  readonly own: boolean;
  readonly href: string | null;
  /** `old`: an earlier design is in view; `none`: it is being made. */
  readonly state: 'made' | 'old' | 'none';
  /** Why it could not be made. */
  readonly problem: string | null;
  readonly alt: string;
  readonly ownAlt: boolean;
  /** It is the one that buyers see when they choose its color. */
  readonly mainOf: string | null;
  readonly main: boolean;
  /** Number of the picture that it looks like. */
  readonly likeNumber: number | null;
  /** Id of the picture where the server made it. */
  readonly id: string | null;
}

/** Pictures in their order, with what the server has of each. */
export function pictureTiles(
  pictures: readonly (readonly [string, Picture])[],
  told: ReadonlyMap<string, PictureView>,
  blank: Blank,
  shots: readonly BenchShot[],
): PictureTile[] {
  const colors = colorOption(blank)?.values ?? [];
  const nameOf = (code: string | null) => colors.find((value) => value.code === code)?.name ?? null;
  const numberOf = new Map(pictures.map(([, picture], i) => [subjectOf(picture), i + 1]));
  const plain = pictures.map(([, picture]) => ({ picture, color: picture.color, main: picture.main === true }));
  const byId = new Map([...told.entries()].map(([subject, picture]) => [picture.id, subject]));
  return pictures.map(([, picture], i) => {
    const subject = subjectOf(picture);
    const known = told.get(subject);
    const shot = shots.find((one) => one.id === picture.shotId);
    const color = nameOf(picture.color);
    const like = known?.duplicateOf ? numberOf.get(byId.get(known.duplicateOf) ?? '') : undefined;
    return {
      subject,
      number: i + 1,
      name: [picture.shotId === null ? (known?.shot ?? 'Own picture') : (shot?.name ?? 'A shot that is gone'), color]
        .filter(Boolean)
        .join(', '),
      color: picture.color,
      own: picture.shotId === null,
      href: known?.href ?? null,
      state: known?.state ?? 'none',
      problem: known?.problem ?? null,
      alt: picture.alt ?? known?.alt ?? '',
      ownAlt: picture.alt !== undefined,
      mainOf: picture.color !== null && pictureOfColor(plain, picture.color)?.picture === picture ? color : null,
      main: picture.main === true,
      likeNumber: like ?? null,
      id: known?.id ?? null,
    };
  });
}

/** Address of a download: one picture, or all as a ZIP. */
export function downloadHref(productId: string, pictureId: string | null, form: DownloadForm): string {
  const query = new URLSearchParams();
  if (pictureId !== null) query.set('id', pictureId);
  if (form.storeId) query.set('store', form.storeId);
  else {
    query.set('format', form.format);
    if (form.side) query.set('side', form.side);
    if (form.square) query.set('square', 'yes');
    if (form.white) query.set('white', 'yes');
  }
  return `/api/v1/products/${productId}/pictures/${pictureId === null ? 'archive' : 'file'}?${query.toString()}`;
}

/** In which form pictures are taken away: a store's own, or one that is put together. */
export interface DownloadForm {
  readonly storeId: string | null;
  readonly format: 'jpeg' | 'png' | 'webp';
  /** Longest side, px; empty for as large as they are. */
  readonly side: '' | '2048' | '1200' | '800';
  readonly square: boolean;
  readonly white: boolean;
}
