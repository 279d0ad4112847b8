import { coverageOfPart, type Part } from '@/core/shot/part';
import type { Photo } from '@/core/shot/photo';

/** A photograph to be looked at, or the part of it that is asked for. Places in px of the photograph as it is shown. */
export type MarkQuestion =
  | { readonly kind: 'photo'; readonly href: string }
  | { readonly kind: 'part'; readonly id: number; readonly part: Part };

export type MarkAnswer =
  | { readonly kind: 'photo'; readonly widthPx: number; readonly heightPx: number }
  | { readonly kind: 'part'; readonly id: number; readonly picture: ImageBitmap; readonly share: number }
  | { readonly kind: 'problem'; readonly says: string };

let photo: Photo | null = null;
/** The selection's color, half transparent: what is laid over the part. */
const TINT = [122, 66, 160, 120] as const;

async function read(href: string): Promise<Photo> {
  const answer = await fetch(href);
  if (!answer.ok) throw new Error('The photograph did not come. Close this and open it again.');
  const bitmap = await createImageBitmap(await answer.blob());
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const rgb = new Uint8Array(bitmap.width * bitmap.height * 3);
  for (let i = 0, o = 0; o < rgb.length; i += 4, o += 3) {
    rgb[o] = data[i]!;
    rgb[o + 1] = data[i + 1]!;
    rgb[o + 2] = data[i + 2]!;
  }
  return { widthPx: bitmap.width, heightPx: bitmap.height, rgb };
}

async function overlay(of: Photo, part: Part): Promise<{ picture: ImageBitmap; share: number }> {
  const cover = coverageOfPart(of, part);
  const rgba = new Uint8ClampedArray(cover.length * 4);
  let sum = 0;
  for (let i = 0; i < cover.length; i += 1) {
    sum += cover[i]!;
    rgba[i * 4] = TINT[0];
    rgba[i * 4 + 1] = TINT[1];
    rgba[i * 4 + 2] = TINT[2];
    rgba[i * 4 + 3] = (cover[i]! * TINT[3]) / 255;
  }
  return {
    picture: await createImageBitmap(new ImageData(rgba, of.widthPx, of.heightPx)),
    share: sum / 255 / cover.length,
  };
}

self.onmessage = async ({ data }: MessageEvent<MarkQuestion>) => {
  const answer = (message: MarkAnswer, transfer: Transferable[] = []) => self.postMessage(message, { transfer });
  try {
    if (data.kind === 'photo') {
      photo = await read(data.href);
      answer({ kind: 'photo', widthPx: photo.widthPx, heightPx: photo.heightPx });
    } else if (photo) {
      const { picture, share } = await overlay(photo, data.part);
      answer({ kind: 'part', id: data.id, picture, share }, [picture as unknown as Transferable]);
    }
  } catch (error) {
    answer({ kind: 'problem', says: (error as Error).message });
  }
};
