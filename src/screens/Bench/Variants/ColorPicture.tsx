'use client';

import { useEffect, useRef } from 'react';
import { useDesk } from '../desk';
import { show } from '../Proof/use-proof';

/** Side of a small picture, px. */
const SIDE_PX = 88;

/** The design on one color, small: as it is now. They are asked for one after the other. */
export function ColorPicture({ code, name }: { code: string; name: string }) {
  const { proof, designed: doc } = useDesk('proof', 'designed');
  const canvas = useRef<HTMLCanvasElement>(null);
  const { shot, asking } = proof;
  const { areas } = doc;
  useEffect(() => {
    if (!shot) return;
    let gone = false;
    void asking.ask(shot, areas, [code], SIDE_PX).then(
      ([picture]) => {
        if (!gone && picture && canvas.current) show(canvas.current, picture);
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [asking, shot, areas, code]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`The design on ${name}`}
      className="size-11 shrink-0 rounded-paper border border-hairline bg-board object-cover"
    />
  );
}
