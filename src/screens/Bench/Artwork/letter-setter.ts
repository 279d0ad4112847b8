import { LetterFace } from '@/core/lettering/face';
import { filesFor, type FontCatalog, type FontFileKey } from '@/core/lettering/font-files';
import { setText, type SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';
import { fetchBytes } from '../worker-fetch';

let catalog: Promise<FontCatalog> | null = null;
const faces = new Map<FontFileKey, Promise<LetterFace>>();

function loadCatalog(): Promise<FontCatalog> {
  catalog ??= fetchBytes('/api/v1/fonts')
    .then((answer) => answer.json() as Promise<{ catalog: FontCatalog }>)
    .then((read) => read.catalog);
  catalog.catch(() => (catalog = null));
  return catalog;
}

function loadFace(key: FontFileKey): Promise<LetterFace> {
  const have = faces.get(key);
  if (have) return have;
  const [family, subset, style] = key.split('/');
  const loading = fetchBytes(`/api/v1/fonts/${family}/${subset}.${style}`)
    .then((answer) => answer.arrayBuffer())
    .then((bytes) => new LetterFace(key, new Uint8Array(bytes)));
  faces.set(key, loading);
  loading.catch(() => faces.delete(key));
  return loading;
}

/** Sets a text with the fonts that it needs, which are fetched once. */
export async function setWithFonts(lettering: Lettering): Promise<SetText> {
  const files = filesFor(lettering, await loadCatalog());
  return setText(lettering, await Promise.all(files.map(loadFace)));
}
