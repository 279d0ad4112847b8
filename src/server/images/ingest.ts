import fs from 'node:fs/promises';
import path from 'node:path';
import { fileTypeFromBuffer } from 'file-type';
import sharp, { type Metadata } from 'sharp';
import { alphaBounds, type MainColor, type Pixels } from '@/core/artwork/analysis';
import { BLOCK_PX, jpegStep, tableStep } from '@/core/artwork/blocks';
import { detailShare } from '@/core/artwork/detail';
import { grayOf, type Gray } from '@/core/artwork/gray';
import { lookAt, type Looks } from '@/core/artwork/looks';
import type { ThinInk } from '@/core/artwork/strokes';
import { findWords } from '@/core/artwork/words';
import { cleanSvg, type CleanSvg } from '@/core/artwork/svg';
import { findSvgTexts, withOutlines, type SetSpan, type SvgSpan } from '@/core/artwork/svg-text';
import { invalid } from '@/core/errors';
import type { Box } from '@/core/geometry/box';
import { hairlines, type Drawing } from './hairlines';
import { declaresColors, openRaster } from './open-raster';
import { MAX_PIXELS, MAX_SVG_BYTES, PREVIEW_PX, THUMBNAIL_PX } from './limits';
import { setSpan } from '../lettering/fonts';
import { ownEntry } from '@/core/own-entry';

/** What is known of an artwork once it has been looked at. Looks are absent in artworks that were taken in before there were such checks, until they are looked at again. */
export interface ArtworkFacts extends Partial<Omit<ClosePicture, 'mainColors'>> {
  readonly mediaType: string;
  readonly vector: boolean;
  /** As seen: the orientation tag is applied. For a vector its size in CSS px. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** Pixels per inch that the file claims, or null. */
  readonly densityDpi: number | null;
  readonly hasAlpha: boolean;
  /** Box of what is visible, as shares 0 to 1 of width and height; null when nothing is. */
  readonly visible: Box | null;
  readonly mainColors: readonly MainColor[];
  /** Things that were done to it, in sentences. */
  readonly notes: readonly string[];
  /** Enlarged by resampling: the width that it had. */
  readonly enlargedFromPx?: number;
  /** The step to which a JPEG rounded its low frequencies, levels: see `blocks.ts`. Null for a vector, and where none is found. */
  readonly jpegStep?: number | null;
  /** Share of its pixels' density that its detail has: see `detail.ts`. Null for a vector, and where nothing tells it. */
  readonly detailShare?: number | null;
  /** Lines of words in it, as shares of width and height. */
  readonly words?: readonly Box[];
  /** Fonts of text in an SVG that do not ship with the app: it would print in others. */
  readonly missingFonts?: readonly string[];
}

export interface IngestResult {
  readonly facts: ArtworkFacts;
  /** Files beside the input: preview.webp, thumbnail.webp, and source.svg for a vector. */
  readonly files: { readonly preview: string; readonly thumbnail: string; readonly source: string | null };
}

const RASTER: Record<string, string> = { 'image/png': 'PNG', 'image/jpeg': 'JPEG', 'image/webp': 'WebP' };

/** What may stand before the root of an SVG: how it begins, and how it ends. */
const BEFORE_ROOT = [
  ['<?', '?>'],
  ['<!--', '-->'],
  ['<!doctype', '>'],
] as const;

/** Whether text begins as an SVG does, after a declaration, comments and a document type. One pass. */
function looksLikeSvg(head: string): boolean {
  const small = head.toLowerCase();
  let at = small.startsWith('\ufeff') ? 1 : 0;
  for (;;) {
    while (/\s/.test(small[at] ?? '')) at += 1;
    const before = BEFORE_ROOT.find(([begin]) => small.startsWith(begin, at));
    if (!before) return /^<(\w+:)?svg[\s/>]/.test(small.slice(at, at + 60));
    const [begin, end] = before;
    let to = small.indexOf(end, at + begin.length);
    // A document type may hold declarations of its own, in brackets.
    const bracket = small.indexOf('[', at);
    if (begin === '<!doctype' && bracket >= 0 && bracket < to) {
      const close = small.indexOf(']', bracket);
      to = close < 0 ? -1 : small.indexOf(end, close);
    }
    if (to < 0) return false;
    at = to + end.length;
  }
}

/** The text of an XML file in the encoding that it is in: by its mark, by what it declares, else UTF-8 (XML 1.0, appendix F). */
function xmlText(bytes: Buffer): string {
  const [a, b] = [bytes[0], bytes[1]];
  const marked =
    (a === 0xff && b === 0xfe) || (a === 0x3c && b === 0)
      ? 'utf-16le'
      : (a === 0xfe && b === 0xff) || (a === 0 && b === 0x3c)
        ? 'utf-16be'
        : null;
  const declared = /^[^>]{0,200}encoding\s*=\s*["']([\w-]{1,40})["']/.exec(
    bytes.subarray(0, 240).toString('latin1'),
  )?.[1];
  try {
    return new TextDecoder(marked ?? (declared && !/^utf-16/i.test(declared) ? declared : 'utf-8')).decode(bytes);
  } catch {
    return bytes.toString('utf8');
  }
}

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
  const upright = open(bytes);
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

/** Most spans of text that are outlined; what has more was made by a program that should do it itself. */
const MAX_SPANS = 2000;

/** Text in fonts that ship with the app becomes outlines; what is in other fonts stays and is named. */
async function outlineSvgText({
  svg,
  hasText,
}: CleanSvg): Promise<{ svg: string; missingFonts: string[]; outlined: number }> {
  if (!hasText) return { svg, missingFonts: [], outlined: 0 };
  const { texts, missingFonts, alongPath } = findSvgTexts(svg);
  const spans = texts.flatMap((text) => text.lines.flatMap((line) => line.spans));
  if (spans.length > MAX_SPANS)
    throw invalid(
      'svg-refused',
      `This SVG cannot be used: it holds ${spans.length} pieces of text; convert its text to outlines.`,
    );
  const sets = new Map<SvgSpan, SetSpan>();
  for (const span of spans) sets.set(span, await setSpan(span));
  return {
    svg: withOutlines(svg, texts, (span) => sets.get(span)!),
    missingFonts: [...missingFonts, ...(alongPath ? ['a font along a path'] : [])],
    outlined: texts.length,
  };
}

/** A clean SVG as pixels whose longer side is `longPx`. The buffer, never a path, is given: from a path librsvg would read files beside it. */
export function renderSvg(svg: string, widthPx: number, heightPx: number, longPx: number) {
  const scale = longPx / Math.max(widthPx, heightPx);
  const density = Math.min(100_000, Math.max(1, 96 * scale));
  return sharp(Buffer.from(svg), { density, limitInputPixels: MAX_PIXELS * 2 }).resize(
    Math.max(1, Math.round(widthPx * scale)),
    Math.max(1, Math.round(heightPx * scale)),
    { fit: 'fill' },
  );
}

const open = (bytes: Buffer) => openRaster(bytes, { limitInputPixels: MAX_PIXELS, failOn: 'truncated' });

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

/** The box of visible pixels as shares; of a large picture at the size of a preview, which finds it within a thousandth. */
async function visibleBox(bytes: Buffer, pixels: number): Promise<Box | null> {
  let image = open(bytes).ensureAlpha();
  if (pixels > 40_000_000) image = image.resize(3000, 3000, { fit: 'inside', withoutEnlargement: true });
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  const box = alphaBounds({ widthPx: info.width, heightPx: info.height, rgba: data });
  return (
    box && {
      left: box.left / info.width,
      right: box.right / info.width,
      top: box.top / info.height,
      bottom: box.bottom / info.height,
    }
  );
}

/** The same picture, its longer side 128 px. */
export async function reduced({ widthPx, heightPx, rgba }: Pixels): Promise<Pixels> {
  const { data, info } = await sharp(rgba, { raw: { width: widthPx, height: heightPx, channels: 4 } })
    .resize(128, 128, { fit: 'inside' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgba: data };
}

/** Longer side of the picture in which strokes and soft parts are looked for. */
const LOOKED_PX = 600;

/** Most pixels that are looked at one by one: rows in the middle of a picture that has more. */
const CLOSE_PIXELS = 2e6;

/** What a step leaves lying about is given back before the next begins: memory is counted as it is held (with `--expose-gc`). */
async function inTurn<T>(step: () => Promise<T>): Promise<T> {
  (globalThis as { gc?: () => void }).gc?.();
  return step();
}

/** What the pixels say at their own size. */
async function closeFacts(
  bytes: Buffer,
  widthPx: number,
  heightPx: number,
): Promise<Pick<ArtworkFacts, 'jpegStep' | 'detailShare'>> {
  const close = await middleOf(bytes, widthPx, heightPx);
  return {
    jpegStep: Math.max(tableStep(bytes) ?? 0, jpegStep(close) ?? 0) || null,
    detailShare: detailShare(close),
  };
}

/** The middle rows of a picture, at its own size, as gray. */
async function middleOf(bytes: Buffer, widthPx: number, heightPx: number): Promise<Gray> {
  const height = Math.min(heightPx, Math.max(1, Math.floor(CLOSE_PIXELS / widthPx)));
  // Rows that begin where blocks of a JPEG do.
  const top = Math.floor((heightPx - height) / 2 / BLOCK_PX) * BLOCK_PX;
  // Turned upright first, in a pipeline of its own: rows are those of the picture as it is seen.
  const { data, info } = await open(bytes)
    .ensureAlpha()
    .extract({ left: 0, top, width: widthPx, height })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return grayOf(info.width, info.height, data);
}

/** Longer side of the picture in which words are looked for. */
const WORDS_PX = 1000;

async function wordsIn(preview: Buffer): Promise<Box[]> {
  const { data, info } = await sharp(preview)
    .resize(WORDS_PX, WORDS_PX, { fit: 'inside', withoutEnlargement: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return findWords(grayOf(info.width, info.height, data));
}

/** A picture of pixels, no larger than it is. */
const rasterDrawing = (bytes: Buffer, width: number, height: number): Drawing => ({
  at: (px) => open(bytes).resize(px, px, { fit: 'inside', withoutEnlargement: true }),
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
  const looks = await inTurn(() => lookAt(pixels, reduced));
  const words = await inTurn(() => wordsIn(preview));
  return { facts: { ...facts, ...(await withHairlines(looks, drawing, facts.hasAlpha)), words }, files };
}

/** What was seen of a picture with the hairlines in it, and on the ground in which it stands. */
export async function withHairlines(looks: Looks, drawing: Drawing, hasAlpha: boolean): Promise<ClosePicture> {
  const { ground } = looks;
  const own = hasAlpha ? await inTurn(() => hairlines(drawing, null)) : [];
  const groundInk = ground === null ? [] : await inTurn(() => hairlines(drawing, ground));
  return {
    ...looks,
    thinInk: [...own, ...looks.thinInk],
    groundInk,
    unboxed: looks.unboxed && { ...looks.unboxed, thinInk: [...groundInk, ...looks.unboxed.thinInk] },
  };
}

interface ClosePicture extends Looks {
  /** What stands on its ground of one color, as `thinInk` is what stands on nothing. */
  readonly groundInk: readonly ThinInk[];
}
