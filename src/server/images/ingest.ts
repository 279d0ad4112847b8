import type { ArtworkFacts, ClosePicture } from './artwork-facts';
import { closeFacts, inTurn, openUpright, reduced, visibleBox, withHairlines, wordsIn } from './look-closely';
import { outlineSvgText, renderSvg } from './render-svg';
import { looksLikeSvg, xmlText } from './svg-file';
import fs from 'node:fs/promises';
import path from 'node:path';
import { fileTypeFromBuffer } from 'file-type';
import sharp, { type Metadata } from 'sharp';
import { readPixelFacts } from '@/core/artwork/pixel-facts';
import { cleanSvg } from '@/core/artwork/svg';
import { invalid } from '@/core/errors';
import type { Drawing } from './hairlines';
import { declaresColors } from './open-raster';
import { MAX_PIXELS, MAX_SVG_BYTES, PREVIEW_PX, THUMBNAIL_PX } from './limits';
import { ownEntry } from '@/core/own-entry';

export interface IngestResult {
  readonly facts: ArtworkFacts;
  /** Files beside the input: preview.webp, thumbnail.webp, and source.svg for a vector. */
  readonly files: { readonly preview: string; readonly thumbnail: string; readonly source: string | null };
}

const RASTER: Record<string, string> = { 'image/png': 'PNG', 'image/jpeg': 'JPEG', 'image/webp': 'WebP' };

/**
 * Looks at an uploaded file by its content, whatever it is called, and makes preview and thumbnail in `folder`. Throws a TypicaError with
 * the reason when it cannot be used. Runs in a child process under limits: decoders meet strangers' bytes here.
 */
export async function ingestFile(file: string, folder: string): Promise<IngestResult> {
  const bytes = await fs.readFile(file);
  if (bytes.length === 0) throw invalid('artwork-empty', 'The file is empty; export it again.');
  const type = await fileTypeFromBuffer(bytes.subarray(0, 8192)).catch(() => undefined);
  if (type && ownEntry(RASTER, type.mime)) return ingestRaster(bytes, type.mime, folder);
  const head = xmlText(bytes.subarray(0, 4096));
  if ((!type || type.mime === 'application/xml') && looksLikeSvg(head)) return ingestSvg(bytes, folder);
  const what = type ? `It is ${type.mime}` : 'It is none of the picture formats that we know';
  throw invalid(
    'artwork-format',
    `This file is not a PNG, JPEG, WebP or SVG, whatever its name says. ${what}; export your artwork in one of these.`,
    { found: type?.mime ?? null },
  );
}

async function ingestRaster(bytes: Buffer, mediaType: string, folder: string): Promise<IngestResult> {
  const name = ownEntry(RASTER, mediaType)!;
  const metadata = await readMetadata(bytes, name);
  const notes: string[] = [];
  if ((metadata.pages ?? 1) > 1)
    throw invalid(
      'artwork-animated',
      `This ${name} has ${metadata.pages} frames; print takes one picture. Export the frame that you want.`,
    );
  const pixels = metadata.width * metadata.height;
  if (pixels > MAX_PIXELS) {
    throw invalid(
      'artwork-too-many-pixels',
      `This picture has ${(pixels / 1e6).toFixed(0)} megapixels (${metadata.width} × ${metadata.height}); the most is ${MAX_PIXELS / 1e6}. A poster of 24 × 36 in at 300 DPI needs 78.`,
    );
  }
  const orientation = metadata.orientation ?? 1;
  if (orientation > 1) notes.push('Turned upright by its orientation tag.');
  if (metadata.space === 'cmyk') notes.push('Converted from CMYK to sRGB; compare the colors.');
  else if (metadata.hasProfile) notes.push('Converted to sRGB by its embedded color profile.');
  else if (declaresColors(bytes)) notes.push('Converted to sRGB by the gamma that it names.');
  if (metadata.depth === 'ushort') notes.push('Reduced from 16 to 8 bits a channel.');

  // The whole picture is decoded once: a file whose second half is missing has a perfect header.
  const upright = openUpright(bytes);
  const preview = await decode(
    () =>
      upright
        .clone()
        .resize(PREVIEW_PX, PREVIEW_PX, { fit: 'inside', withoutEnlargement: true })
        .webp({ quality: 88, alphaQuality: 100 })
        .toBuffer({ resolveWithObject: true }),
    name,
  );
  const turned = orientation >= 5;
  const [widthPx, heightPx] = turned ? [metadata.height, metadata.width] : [metadata.width, metadata.height];
  const visible = metadata.hasAlpha ? await visibleBox(bytes, pixels) : { left: 0, top: 0, right: 1, bottom: 1 };
  const densityDpi = metadata.density && metadata.density >= 30 && metadata.density <= 4800 ? metadata.density : null;
  const close = await inTurn(() => closeFacts(bytes, widthPx, heightPx));
  return finish(
    folder,
    { preview: preview.data, source: null, drawing: rasterDrawing(bytes, widthPx, heightPx) },
    {
      mediaType,
      vector: false,
      widthPx,
      heightPx,
      densityDpi,
      hasAlpha: metadata.hasAlpha ?? false,
      visible,
      notes,
      ...close,
    },
  );
}

async function ingestSvg(bytes: Buffer, folder: string): Promise<IngestResult> {
  if (bytes.length > MAX_SVG_BYTES)
    throw invalid(
      'svg-refused',
      `This SVG has ${(bytes.length / 1024 / 1024).toFixed(0)} MB; the most is ${MAX_SVG_BYTES / 1024 / 1024}. Simplify it or export it as PNG.`,
    );
  const clean = cleanSvg(xmlText(bytes));
  const { widthPx, heightPx, leftOut } = clean;
  const notes = leftOut.length > 0 ? [`Left out: ${leftOut.join(', ')}. Compare the picture.`] : [];
  const { svg, missingFonts, outlined } = await outlineSvgText(clean);
  if (outlined > 0)
    notes.push(`Its text was converted to outlines: ${outlined === 1 ? '1 piece' : `${outlined} pieces`}.`);
  const source = path.join(folder, 'source.svg');
  await fs.writeFile(source, svg);
  const rendered = await decode(
    () =>
      renderSvg(svg, widthPx, heightPx, PREVIEW_PX)
        .webp({ quality: 90, alphaQuality: 100 })
        .toBuffer({ resolveWithObject: true }),
    'SVG',
  );
  const visible = await visibleBox(rendered.data, PREVIEW_PX ** 2);
  return finish(
    folder,
    {
      preview: rendered.data,
      source,
      drawing: {
        at: (px) => renderSvg(svg, widthPx, heightPx, px),
        sizePx: { width: widthPx, height: heightPx, any: true },
      },
    },
    {
      mediaType: 'image/svg+xml',
      vector: true,
      widthPx,
      heightPx,
      densityDpi: null,
      hasAlpha: true,
      visible,
      notes,
      jpegStep: null,
      detailShare: null,
      ...(missingFonts.length > 0 ? { missingFonts } : {}),
    },
  );
}

async function readMetadata(bytes: Buffer, name: string): Promise<Metadata & { width: number; height: number }> {
  try {
    const metadata = await sharp(bytes, { limitInputPixels: false }).metadata();
    if (!metadata.width || !metadata.height) throw new Error('no size');
    return metadata as Metadata & { width: number; height: number };
  } catch (error) {
    throw invalid(
      'artwork-damaged',
      `This ${name} cannot be read: its beginning is damaged (${(error as Error).message.split('\n')[0]}). Export it again.`,
    );
  }
}

async function decode<T>(work: () => Promise<T>, name: string): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw invalid(
      'artwork-damaged',
      `This ${name} is damaged or cut off: it starts well and cannot be read to its end (${(error as Error).message.split('\n')[0]}). Export or upload it again.`,
    );
  }
}

/** A picture of pixels, no larger than it is. */
const rasterDrawing = (bytes: Buffer, width: number, height: number): Drawing => ({
  at: (px) => openUpright(bytes).resize(px, px, { fit: 'inside', withoutEnlargement: true }),
  sizePx: { width, height, any: false },
});

/** What was made of a file: its picture of medium size, where a vector lies, and how it is drawn in any size. */
interface Made {
  readonly preview: Buffer;
  readonly source: string | null;
  readonly drawing: Drawing;
}

async function finish(
  folder: string,
  { preview, source, drawing }: Made,
  facts: Omit<ArtworkFacts, keyof ClosePicture | 'words'>,
): Promise<IngestResult> {
  if (facts.visible === null)
    throw invalid(
      'artwork-invisible',
      'Nothing in this picture is visible: every pixel is transparent. Export it with its layers shown.',
    );
  const files = { preview: path.join(folder, 'preview.webp'), thumbnail: path.join(folder, 'thumbnail.webp'), source };
  const small = sharp(preview).resize(THUMBNAIL_PX, THUMBNAIL_PX, { fit: 'inside', withoutEnlargement: true });
  const looked = sharp(preview).resize(LOOKED_PX, LOOKED_PX, { fit: 'inside', withoutEnlargement: true });
  const [thumbnail, close] = await Promise.all([
    small.webp({ quality: 86 }).toBuffer(),
    looked.ensureAlpha().raw().toBuffer({ resolveWithObject: true }),
  ]);
  await Promise.all([fs.writeFile(files.preview, preview), fs.writeFile(files.thumbnail, thumbnail)]);
  const pixels = { widthPx: close.info.width, heightPx: close.info.height, rgba: close.data };
  const looks = await inTurn(() => readPixelFacts(pixels, reduced));
  const words = await inTurn(() => wordsIn(preview));
  return { facts: { ...facts, ...(await withHairlines(looks, drawing, facts.hasAlpha)), words }, files };
}

/** Longer side of the picture in which strokes and soft parts are looked for. */
const LOOKED_PX = 600;
