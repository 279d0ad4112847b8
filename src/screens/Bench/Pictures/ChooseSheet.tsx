'use client';

import { useEffect, useRef } from 'react';
import { addPictures, picturesNow, removePictures, subjectOf, type PictureChoice } from '@/bench/picturing';
import { areaTitle, colorOption } from '@/core/catalog/blank';
import { chosenColors } from '@/core/document/chosen';
import { MAX_PICTURES, usefulShots } from '@/core/listing/pictures';
import { count } from '@/core/words/count';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from '../desk';
import type { BenchShot } from '../load';
import { show } from '../Proof/use-proof';

const THUMB_PX = 128;

/** Shots down, colors across: which of them are pictures of the product. */
export function ChooseSheet({ open, onClose, choice }: { open: boolean; onClose: () => void; choice: PictureChoice }) {
  return (
    <Sheet open={open} onClose={onClose} title="Shots and colors" wide>
      {open && <Choose choice={choice} />}
    </Sheet>
  );
}

function Choose({ choice }: { choice: PictureChoice }) {
  const desk = useDesk('designed', 'data', 'edit');
  const { designed: doc, data } = desk;
  const chosen = chosenColors(doc, data.blank);
  const values = (colorOption(data.blank)?.values ?? []).filter((value) => chosen.includes(value.code));
  const columns: { code: string | null; name: string; hex: string | null }[] =
    values.length > 0
      ? values.map(({ code, name, hex }) => ({ code, name, hex }))
      : [{ code: null, name: 'As it is', hex: null }];
  const useful = new Set(usefulShots(doc, data.blank, choice.shots).map(({ id }) => id));
  const shots = [...data.shots].sort((a, b) => Number(useful.has(b.id)) - Number(useful.has(a.id)));
  const now = picturesNow(doc, choice);
  const on = new Set(now.map(([, picture]) => subjectOf(picture)));
  const subject = (shotId: string, color: string | null) => subjectOf({ shotId, color });
  const set = (cells: readonly { shotId: string; color: string | null }[], wanted: boolean) =>
    desk.edit(wanted ? 'Add pictures' : 'Remove pictures', (d) =>
      wanted
        ? addPictures(d, choice, cells.slice(0, Math.max(0, MAX_PICTURES - on.size)))
        : removePictures(
            d,
            choice,
            cells.map((cell) => subject(cell.shotId, cell.color)),
          ),
    );
  const toggleAll = (cells: readonly { shotId: string; color: string | null }[]) =>
    set(cells, !cells.every((cell) => on.has(subject(cell.shotId, cell.color))));
  return (
    <>
      <p className="text-small text-muted mb-3">
        {count(on.size, 'picture')} of {MAX_PICTURES} at most. A head or the name of a shot turns a whole column or row
        on and off. Colors are those that are chosen under Colors & sizes.
      </p>
      <div className="max-h-[66vh] overflow-auto">
        <table className="border-collapse text-small">
          <thead>
            <tr>
              <th className="sticky left-0 bg-sheet text-left font-normal text-muted pr-4 pb-2 align-bottom">Shot</th>
              {columns.map((column) => (
                <th key={column.code ?? ''} className="px-1 pb-2 align-bottom font-normal">
                  <button
                    type="button"
                    className="inline-flex flex-col items-center gap-1 w-16"
                    onClick={() => toggleAll([...useful].map((shotId) => ({ shotId, color: column.code })))}
                    aria-label={`All shots in ${column.name}`}
                  >
                    {column.hex && (
                      <span className="size-5 rounded-paper border border-ink/25" style={{ background: column.hex }} />
                    )}
                    <span className="text-tiny leading-tight">{column.name}</span>
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shots.map((shot) => (
              <tr key={shot.id} className="border-t border-hairline">
                <th scope="row" className="sticky left-0 bg-sheet text-left font-normal pr-4 py-1.5">
                  <button
                    type="button"
                    className="flex items-center gap-2.5 text-left"
                    onClick={() => toggleAll(columns.map((column) => ({ shotId: shot.id, color: column.code })))}
                    aria-label={`${shot.name} in all colors`}
                  >
                    <Thumb shot={shot} color={columns[0]?.code ?? null} />
                    <span>
                      <span className="block font-medium">{shot.name}</span>
                      <span className="block text-tiny text-muted">
                        {useful.has(shot.id)
                          ? Object.keys(shot.areas)
                              .flatMap((key) => {
                                const area = data.blank.areas.find((one) => one.key === key);
                                return area ? [areaTitle(data.blank, area)] : [];
                              })
                              .join(', ')
                          : 'shows nothing that is printed and chosen'}
                      </span>
                    </span>
                  </button>
                </th>
                {columns.map((column) => (
                  <td key={column.code ?? ''} className="px-1 text-center">
                    <input
                      type="checkbox"
                      className="size-4 accent-primary"
                      aria-label={`${shot.name} in ${column.name}`}
                      checked={on.has(subject(shot.id, column.code))}
                      onChange={(e) => set([{ shotId: shot.id, color: column.code }], e.target.checked)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** The design as it is now on a shot, small; drawn here, not made. */
function Thumb({ shot, color }: { shot: BenchShot; color: string | null }) {
  const { proof, designed: doc } = useDesk('proof', 'designed');
  const canvas = useRef<HTMLCanvasElement>(null);
  const { asking } = proof;
  useEffect(() => {
    let gone = false;
    asking.ask(shot, doc.areas, [color], THUMB_PX).then(
      ([picture]) => {
        if (!gone && canvas.current) show(canvas.current, picture!);
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [asking, shot, doc.areas, color]);
  return (
    <canvas ref={canvas} aria-hidden className="size-12 rounded-paper border border-hairline object-contain bg-paper" />
  );
}
