'use client';

import { useEffect, useMemo, useState } from 'react';
import type { ProductDocument } from '@/core/document/document';
import { LetterFace } from '@/core/lettering/face';
import { filesFor, type FontCatalog, type FontFileKey } from '@/core/lettering/font-files';
import { setText, type SetText } from '@/core/lettering/layout';
import type { Lettering } from '@/core/lettering/text';
import { call } from '@/ui/api';

let catalog: Promise<FontCatalog> | null = null;
const faces = new Map<FontFileKey, Promise<LetterFace>>();
/** Texts as they were set, by their lettering; the least recently made go first. */
const kept = new Map<string, SetText>();
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

async function set(key: string, lettering: Lettering): Promise<SetText> {
  const have = kept.get(key);
  if (have) return have;
  const files = filesFor(lettering, await loadCatalog());
  const made = setText(lettering, await Promise.all(files.map(loadFace)));
  kept.set(key, made);
  while (kept.size > MAX_KEPT) kept.delete(kept.keys().next().value!);
  return made;
}

/** Every text of a design as it is set, by layer id; a text whose fonts are on their way is shown as it was before. */
export function useLetterings(areas: ProductDocument['areas']): {
  letterings: { readonly [layerId: string]: SetText };
  problem: string | null;
} {
  const wanted = useMemo(
    () =>
      Object.values(areas).flatMap(({ layers }) =>
        Object.entries(layers).flatMap(([id, layer]) =>
          layer.kind === 'text' ? [{ id, lettering: layer.lettering, key: JSON.stringify(layer.lettering) }] : [],
        ),
      ),
    [areas],
  );
  const [letterings, setLetterings] = useState<{ readonly [layerId: string]: SetText }>({});
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (wanted.length === 0) return;
    let current = true;
    Promise.all(wanted.map(async ({ id, key, lettering }) => [id, await set(key, lettering)] as const)).then(
      (entries) => {
        if (!current) return;
        setLetterings((before) => ({ ...before, ...Object.fromEntries(entries) }));
        setProblem(null);
      },
      (error: Error) => current && setProblem(`The letters cannot be shown: ${error.message} The design is kept.`),
    );
    return () => {
      current = false;
    };
  }, [wanted]);
  return { letterings, problem };
}
