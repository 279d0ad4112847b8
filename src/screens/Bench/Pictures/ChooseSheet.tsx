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

/** A shot in a color; null where the blank has no colors. */
interface Cell {
  readonly shotId: string;
  readonly color: string | null;
}
interface Column {
  readonly code: string | null;
  readonly name: string;
  readonly hex: string | null;
}

/** Which cells are pictures, and how they are turned on and off, one or many. */
function useChoosing(choice: PictureChoice) {
  const { designed: doc, data, edit } = useDesk('designed', 'data', 'edit');
  const chosen = chosenColors(doc, data.blank);
  const values = (colorOption(data.blank)?.values ?? []).filter((value) => chosen.includes(value.code));
  const columns: readonly Column[] = values.length > 0 ? values : [{ code: null, name: 'As it is', hex: null }];
  const useful = new Set(usefulShots(doc, data.blank, choice.shots).map(({ id }) => id));
  const shots = [...data.shots].sort((a, b) => Number(useful.has(b.id)) - Number(useful.has(a.id)));
  const on = new Set(picturesNow(doc, choice).map(([, picture]) => subjectOf(picture)));
  const isOn = (cell: Cell) => on.has(subjectOf(cell));
  const set = (cells: readonly Cell[], wanted: boolean) =>
    edit(wanted ? 'Add pictures' : 'Remove pictures', (d) =>
      wanted
        ? addPictures(d, choice, cells.slice(0, Math.max(0, MAX_PICTURES - on.size)))
        : removePictures(d, choice, cells.map(subjectOf)),
    );
  const toggleAll = (cells: readonly Cell[]) => set(cells, !cells.every(isOn));
  return { columns, shots, useful, chosenCount: on.size, isOn, set, toggleAll };
}

type Choosing = ReturnType<typeof useChoosing>;

function Choose({ choice }: { choice: PictureChoice }) {
  const choosing = useChoosing(choice);
  const { columns, shots, useful, toggleAll } = choosing;
  return (
    <>
      <p className="text-small text-muted mb-3">
        {count(choosing.chosenCount, 'picture')} of {MAX_PICTURES} at most. A head or the name of a shot turns a whole
        column or row on and off. Colors are those that are chosen under Colors & sizes.
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
              <ShotRow key={shot.id} shot={shot} choosing={choosing} />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function ShotRow({
  shot,
  choosing: { columns, useful, isOn, set, toggleAll },
}: {
  shot: BenchShot;
  choosing: Choosing;
}) {
  const { blank } = useDesk('data').data;
  const shown = blank.areas.filter(({ key }) => Object.hasOwn(shot.areas, key)).map((area) => areaTitle(blank, area));
  return (
    <tr className="border-t border-hairline">
      <th scope="row" className="sticky left-0 bg-sheet text-left font-normal pr-4 py-1.5">
        <button
          type="button"
          className="flex items-center gap-2.5 text-left"
          onClick={() => toggleAll(columns.map(({ code }) => ({ shotId: shot.id, color: code })))}
          aria-label={`${shot.name} in all colors`}
        >
          <Thumb shot={shot} color={columns[0]?.code ?? null} />
          <span>
            <span className="block font-medium">{shot.name}</span>
            <span className="block text-tiny text-muted">
              {useful.has(shot.id) ? shown.join(', ') : 'shows nothing that is printed and chosen'}
            </span>
          </span>
        </button>
      </th>
      {columns.map(({ code, name }) => (
        <td key={code ?? ''} className="px-1 text-center">
          <input
            type="checkbox"
            className="size-4 accent-primary"
            aria-label={`${shot.name} in ${name}`}
            checked={isOn({ shotId: shot.id, color: code })}
            onChange={(e) => set([{ shotId: shot.id, color: code }], e.target.checked)}
          />
        </td>
      ))}
    </tr>
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
