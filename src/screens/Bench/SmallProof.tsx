'use client';

import { useEffect, useRef } from 'react';
import type { ProductDocument } from '@/core/document/document';
import { useDesk } from './desk';
import { show } from './Proof/use-proof';

/** A design on one color in the shot in view, small. They are asked for one after the other. */
export function SmallProof({
  areas,
  color,
  label,
  sidePx,
  className,
}: {
  areas: ProductDocument['areas'];
  color: string | null;
  label: string;
  /** Longest side of the picture, px. */
  sidePx: number;
  className: string;
}) {
  const { proof } = useDesk('proof');
  const canvas = useRef<HTMLCanvasElement>(null);
  const { shot, asking } = proof;
  useEffect(() => {
    if (!shot) return;
    let gone = false;
    void asking.ask(shot, areas, [color], sidePx).then(
      ([picture]) => {
        if (!gone && picture && canvas.current) show(canvas.current, picture);
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [asking, shot, areas, color, sidePx]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      className={`shrink-0 rounded-paper border border-hairline bg-board object-cover ${className}`}
    />
  );
}
