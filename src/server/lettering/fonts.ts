import fs from 'node:fs/promises';
import path from 'node:path';
import { LRUCache } from 'lru-cache';
import type { SetSpan, SvgSpan } from '@/core/artwork/svg-text';
import { isTypicaError, notFound } from '@/core/errors';
import { coverageOf } from '@/core/lettering/coverage';
import { LetterFace } from '@/core/lettering/face';
import { FAMILIES, familyByCode, type FontStyle } from '@/core/lettering/families';
import { filesFor, fontFileKey, type FontCatalog, type FontFileKey } from '@/core/lettering/font-files';
import { setLine, setText, type SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';
import { unpackWoff } from '@/core/lettering/woff';
import { svgPath } from '@/core/paths/path';
import { processWide } from '../process-wide';

/** Where the fonts' packages lie; each has a WOFF for each subset, weight and style. */
const FONTS = path.join(/* turbopackIgnore: true */ process.cwd(), 'node_modules', '@fontsource');

const WEIGHTS: Record<FontStyle, string> = {
  regular: '400-normal',
  bold: '700-normal',
  italic: '400-italic',
  'bold-italic': '700-italic',
};

/** Subsets in the order in which they are tried: what most texts need first. */
const SUBSETS = [
  'latin',
  'latin-ext',
  'greek',
  'cyrillic',
  'hebrew',
  'arabic',
  'devanagari',
  'greek-ext',
  'cyrillic-ext',
  'vietnamese',
];

const kept = processWide('font-catalog', () => ({ catalog: null as Promise<FontCatalog> | null }));

/** Which characters the files of each family hold. */
export function fontCatalog(): Promise<FontCatalog> {
  kept.catalog ??= readCatalog();
  return kept.catalog;
}

/** A family has no file of a subset: any other trouble is told. */
function noneOf(error: unknown): null {
  if (isTypicaError(error, 'not-found')) return null;
  throw error;
}

/** Read from the fonts themselves: the lists that come with them claim whole blocks of which a font draws a few letters. */
async function readCatalog(): Promise<FontCatalog> {
  const entries = await Promise.all(
    FAMILIES.map(async ({ code }) => {
      const files = await Promise.all(
        SUBSETS.map(async (subset) => {
          const bytes = await readFontFile(code, subset, 'regular').catch(noneOf);
          return bytes ? [{ subset, ranges: coverageOf(unpackWoff(new Uint8Array(bytes), ['cmap'])) }] : [];
        }),
      );
      return [code, files.flat()] as const;
    }),
  );
  return Object.fromEntries(entries);
}

/** The bytes of a font file, WOFF. Throws `not-found`. */
export async function readFontFile(family: string, subset: string, style: string): Promise<Buffer> {
  const known = familyByCode(family)?.styles.includes(style as FontStyle) && SUBSETS.includes(subset);
  if (!known) throw notFound('font file', fontFileKey(family, subset, style as FontStyle));
  const file = path.join(FONTS, family, 'files', `${family}-${subset}-${WEIGHTS[style as FontStyle]}.woff`);
  return fs.readFile(file).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ENOENT') throw error;
    throw notFound('font file', fontFileKey(family, subset, style as FontStyle));
  });
}

/** Fonts that are open: a face holds its file and what HarfBuzz made of it. */
const faces = new LRUCache<FontFileKey, Promise<LetterFace>>({ max: 60 });

function loadFace(key: FontFileKey): Promise<LetterFace> {
  const have = faces.get(key);
  if (have) return have;
  const [family, subset, style] = key.split('/') as [string, string, string];
  const loading = readFontFile(family, subset, style).then((bytes) => new LetterFace(key, new Uint8Array(bytes)));
  faces.set(key, loading);
  loading.catch(() => faces.delete(key));
  return loading;
}

/** One span of an SVG's text as outlines, for `withOutlines`. */
export async function setSpan(span: SvgSpan): Promise<SetSpan> {
  const keys = filesFor(span, await fontCatalog());
  const { path: steps, width } = setLine(span.text, await Promise.all(keys.map(loadFace)), span.sizePx, span.tracking);
  return { pathData: svgPath(steps), width };
}

/** A text as it is set, with the fonts that it needs. */
export async function setLettering(lettering: Lettering): Promise<SetText> {
  const keys = filesFor(lettering, await fontCatalog());
  return setText(lettering, await Promise.all(keys.map(loadFace)));
}
