'use client';

import { useEffect, useRef, useState } from 'react';
import { scalePart, type Part } from '@/core/shot/part';
import { show } from '../Proof/use-proof';
import type { MarkAnswer, MarkQuestion } from './mark.worker';

/** Shows on a canvas what takes the fabric's color, worked out beside the page; gives its share of the photograph. */
export function usePart(
  photographId: string,
  photoWidthPx: number,
  part: Part | null,
  canvas: HTMLCanvasElement | null,
): { share: number | null; problem: string | null } {
  const worker = useRef<Worker | null>(null);
  const [shown, setShown] = useState<number | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(0);
  const onto = useRef(canvas);
  useEffect(() => {
    onto.current = canvas;
  }, [canvas]);
  useEffect(() => {
    const made = new Worker(new URL('./mark.worker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<MarkAnswer>) => {
      if (data.kind === 'photo') setShown(data.widthPx);
      else if (data.kind === 'problem') setProblem(data.says);
      else if (data.id === asked.current && onto.current) {
        show(onto.current, data.picture);
        setShare(data.share);
      }
    };
    made.postMessage({ kind: 'photo', href: `/api/v1/artwork/${photographId}/preview` } satisfies MarkQuestion);
    return () => made.terminate();
  }, [photographId]);
  useEffect(() => {
    if (shown === null) return;
    asked.current += 1;
    const scaled = scalePart(part ?? { picks: [], strokes: [] }, shown / photoWidthPx);
    worker.current?.postMessage({ kind: 'part', id: asked.current, part: scaled } satisfies MarkQuestion);
  }, [part, shown, photoWidthPx]);
  return { share, problem };
}
