'use client';

import { useEffect, useRef, useState } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { chosenColors } from '@/core/document/chosen';
import { Alert } from '@/ui/Alert';
import { Check } from '@/ui/Check';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from '../desk';
import { show } from './use-proof';
import { hardlySeenOn } from './seen-on';

/** Side of a picture, px. */
const SIDE_PX = 340;

/** The design on every color of the blank at once, to see where it fails: with what the checks say of each. */
export function ColorsSheet() {
  const { proof } = useDesk('proof');
  return (
    <Sheet open={proof.open === 'colors'} onClose={() => proof.setOpen(null)} title="All colors" wide>
      {proof.open === 'colors' && <Colors />}
    </Sheet>
  );
}

/** Draws the design on a canvas for each color, given as `codes` with commas between. */
function useDrawn(codes: string) {
  const { proof, designed: doc } = useDesk('proof', 'designed');
  const { shot, asking } = proof;
  const [problem, setProblem] = useState<string | null>(null);
  const canvases = useRef(new Map<string, HTMLCanvasElement>());
  useEffect(() => {
    if (!shot) return;
    let gone = false;
    // One by one, so that the first are there at once.
    void (async () => {
      for (const code of codes.split(',').filter(Boolean)) {
        const [picture] = await asking.ask(shot, doc.areas, [code], SIDE_PX);
        if (gone) return;
        const canvas = canvases.current.get(code);
        if (canvas) show(canvas, picture!);
      }
      setProblem(null);
    })().catch((error: Error) => setProblem(error.message));
    return () => {
      gone = true;
    };
  }, [asking, shot, doc.areas, codes]);
  return { canvases, problem };
}

function Colors() {
  const desk = useDesk('proof', 'designed', 'data', 'artworks', 'color', 'setColor');
  const { proof, designed: doc, data, artworks } = desk;
  const mainColors = (id: string) => artworks.find((artwork) => artwork.id === id)?.facts?.mainColors ?? [];
  const values = colorOption(data.blank)?.values ?? [];
  const chosen = chosenColors(doc, data.blank);
  const [onlyChosen, setOnlyChosen] = useState(chosen.length > 0);
  const seen = values.filter((value) => !onlyChosen || chosen.includes(value.code));
  const codes = seen.map((value) => value.code).join();
  const { shot } = proof;
  const { canvases, problem } = useDrawn(codes);
  if (values.length === 0) return <p className="text-muted">{data.blank.name} comes in one color.</p>;
  return (
    <>
      <div className="flex items-baseline justify-between mb-3">
        <p className="text-small text-muted">
          {shot ? `${shot.name}, the design as it is now.` : 'There is no picture of this blank yet.'}
        </p>
        <Check on={onlyChosen} onChange={setOnlyChosen} className="text-small">
          Only the chosen colors
        </Check>
      </div>
      {problem && <Alert className="mb-3">{problem}</Alert>}
      <ul className="grid grid-cols-4 gap-3 max-h-[70vh] overflow-auto p-0.5">
        {seen.map((value) => {
          const fails = shot ? hardlySeenOn(doc, data.blank, shot, value.code, mainColors) : [];
          return (
            <li key={value.code}>
              <button
                type="button"
                aria-pressed={value.code === desk.color}
                onClick={() => {
                  desk.setColor(value.code);
                  proof.setOpen(null);
                }}
                className={`block w-full rounded-paper border border-hairline bg-sheet text-left ${value.code === desk.color ? 'outline-2 outline-ink outline-offset-1' : ''}`}
              >
                <canvas
                  ref={(canvas) => {
                    if (canvas) canvases.current.set(value.code, canvas);
                    else canvases.current.delete(value.code);
                  }}
                  role="img"
                  aria-label={`The design on ${value.name}`}
                  className="aspect-square w-full object-contain"
                />
                <span className="flex items-baseline justify-between gap-2 px-2 py-1 text-small border-t border-hairline">
                  <span>{value.name}</span>
                  {!chosen.includes(value.code) && <span className="text-tiny text-muted">not chosen</span>}
                </span>
                {fails.length > 0 && (
                  <span className="block border-l-[3px] border-caution mx-2 mb-2 pl-2 text-tiny text-caution">
                    Low contrast: {fails.join(', ')}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
