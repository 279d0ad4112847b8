'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { ProductDocument } from '@/core/document/document';
import type { SetText } from '@/core/lettering/layout';
import { setLetters } from './set-letters';

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
  /** What each text that is set was set from. */
  const keys = useRef(new Map<string, string>());
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (wanted.length === 0) return;
    let current = true;
    // A text that says what it said is the very same thing: what shows it is not drawn anew.
    const news = wanted.filter(({ id, key }) => keys.current.get(id) !== key);
    if (news.length === 0) return;
    Promise.all(news.map(async ({ id, key, lettering }) => [id, key, await setLetters(key, lettering)] as const)).then(
      (entries) => {
        if (!current) return;
        for (const [id, key] of entries) keys.current.set(id, key);
        setLetterings((before) => ({ ...before, ...Object.fromEntries(entries.map(([id, , one]) => [id, one])) }));
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
