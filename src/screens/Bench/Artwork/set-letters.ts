import { LetterFace } from '@/core/lettering/face';
import { filesFor, type FontCatalog, type FontFileKey } from '@/core/lettering/font-files';
import { setText, type SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';
import { call } from '@/ui/api';

let catalog: Promise<FontCatalog> | null = null;
const faces = new Map<FontFileKey, Promise<LetterFace>>();
/** Texts as they were set, by their lettering; the least recently made go first. */
const kept = new Map<string, Promise<SetText>>();
const MAX_KEPT = 300;

function loadCatalog(): Promise<FontCatalog> {
  catalog ??= call<{ catalog: FontCatalog }>('GET', '/fonts').then((answer) => answer.catalog);
  catalog.catch(() => (catalog = null));
  return catalog;
}

function loadFace(key: FontFileKey): Promise<LetterFace> {
  const have = faces.get(key);
  if (have) return have;
  const [family, subset, style] = key.split('/');
  const loading = fetch(`/api/v1/fonts/${family}/${subset}.${style}`).then(async (answer) => {
    if (!answer.ok) throw new Error(`The font ${key} did not come.`);
    return new LetterFace(key, new Uint8Array(await answer.arrayBuffer()));
  });
  faces.set(key, loading);
  loading.catch(() => faces.delete(key));
  return loading;
}

/** Sets a text with the fonts that it needs; `key` stands for all that decides how it looks. */
export function setLetters(key: string, lettering: Lettering): Promise<SetText> {
  const have = kept.get(key);
  if (have) return have;
  const setting = (async () => {
    const files = filesFor(lettering, await loadCatalog());
    return setText(lettering, await Promise.all(files.map(loadFace)));
  })();
  kept.set(key, setting);
  setting.catch(() => kept.delete(key));
  while (kept.size > MAX_KEPT) kept.delete(kept.keys().next().value!);
  return setting;
}
