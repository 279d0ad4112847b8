'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import type { ArtworkSize, Finding } from '@/core/findings/finding';
import type { SetText } from '@/core/lettering/layout';
import { call } from '@/ui/api';
import { useEvents } from '@/ui/events';
import type { Answer, ForeseenFinding, Question } from './findings.worker';

type Artworks = { readonly [id: string]: ArtworkSize | undefined };
type Letterings = { readonly [layerId: string]: SetText };

/** What the checks say of a design, found in a worker: one question at a time, and of those that came meanwhile only the last. */
export function useFindings(doc: ProductDocument, blank: Blank, artworks: Artworks, letterings: Letterings) {
  const [findings, setFindings] = useState<readonly ForeseenFinding[]>([]);
  const asker = useRef<Asker | null>(null);
  useEffect(() => {
    const made = new Asker(setFindings);
    asker.current = made;
    return () => made.close();
  }, []);
  useEffect(() => {
    asker.current?.ask(doc, blank, artworks, letterings);
  }, [doc, blank, artworks, letterings]);
  return findings;
}

class Asker {
  private readonly worker = new Worker(new URL('./findings.worker.ts', import.meta.url), { type: 'module' });
  private told: { blank?: Blank; artworks?: Artworks; letterings?: Letterings } = {};
  private next: [ProductDocument, Blank, Artworks, Letterings] | null = null;
  private asked = false;

  constructor(tell: (findings: readonly ForeseenFinding[]) => void) {
    this.worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      this.asked = false;
      tell(data.findings);
      if (this.next) this.ask(...this.next);
    };
  }

  ask(doc: ProductDocument, blank: Blank, artworks: Artworks, letterings: Letterings): void {
    if (this.asked) {
      this.next = [doc, blank, artworks, letterings];
      return;
    }
    this.next = null;
    this.asked = true;
    const question: Question = {
      doc,
      ...(this.told.blank === blank ? {} : { blank }),
      ...(this.told.artworks === artworks ? {} : { artworks }),
      ...(this.told.letterings === letterings ? {} : { letterings: withoutPaths(letterings) }),
    };
    this.told = { blank, artworks, letterings };
    this.worker.postMessage(question);
  }

  close(): void {
    this.worker.terminate();
  }
}

/** Outlines are large and no check looks at them. */
const withoutPaths = (letterings: Letterings) =>
  Object.fromEntries(Object.entries(letterings).map(([id, { inks: _inks, ...looked }]) => [id, looked]));

interface Accepted {
  readonly by: string;
  readonly at: string;
}

/** Warnings of a product that someone took upon themselves. */
export type Acceptances = ReturnType<typeof useAcceptances>;

/** Who accepted which warnings of a product, and how that is done and taken back. */
export function useAcceptances(productId: string) {
  const [accepted, setAccepted] = useState<ReadonlyMap<string, Accepted>>(new Map());
  const load = useCallback(
    () =>
      call<{ findings: (Finding & { accepted: Accepted | null })[] }>('GET', `/products/${productId}/findings`).then(
        ({ findings }) =>
          setAccepted(new Map(findings.flatMap((one) => (one.accepted ? [[keyOf(one), one.accepted] as const] : [])))),
        () => undefined,
      ),
    [productId],
  );
  useEffect(() => {
    void load();
  }, [load]);
  useEvents((topic, payload) => {
    if ((topic === 'finding' && payload.productId === productId) || topic === 'reset') void load();
  });
  return useMemo(
    () => ({
      of: (finding: Finding) => accepted.get(keyOf(finding)) ?? null,
      async set(finding: Finding, accept: boolean) {
        await call(
          accept ? 'PUT' : 'DELETE',
          `/products/${productId}/findings/${encodeURIComponent(finding.id)}/acceptance`,
        );
        await load();
      },
    }),
    [accepted, load, productId],
  );
}

/** An acceptance holds for its own words: when the numbers change it is another finding. */
const keyOf = ({ id, says }: Finding): string => `${id} ${says}`;
