'use client';

import { useRef, useState } from 'react';
import { ownEntry } from '@/core/own-entry';
import type { PictureTile } from './view';

/** The pictures as they will be seen, in their order: moved by dragging, or with Alt and the arrow keys. */
export function PictureGrid({
  tiles,
  chosen,
  choose,
  move,
  remove,
}: {
  tiles: readonly PictureTile[];
  chosen: string | null;
  choose: (subject: string) => void;
  move: (subject: string, to: number) => void;
  remove: (subject: string) => void;
}) {
  const [dragged, setDragged] = useState<string | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const list = useRef<HTMLUListElement>(null);
  const columns = () => {
    const tops = [...(list.current?.children ?? [])].map((tile) => (tile as HTMLElement).offsetTop);
    return Math.max(1, tops.filter((top) => top === tops[0]).length);
  };
  const focus = (index: number) =>
    (list.current?.children[index]?.querySelector('button') as HTMLElement | null | undefined)?.focus();
  const onKey = (e: React.KeyboardEvent, tile: PictureTile) => {
    const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -columns(), ArrowDown: columns() };
    const by = ownEntry(steps, e.key);
    const at = tile.number - 1;
    if (by !== undefined) {
      e.preventDefault();
      const to = Math.min(tiles.length - 1, Math.max(0, at + by));
      if (e.altKey) {
        move(tile.subject, to);
        choose(tile.subject);
        // The tile moves; the focus goes with it.
        requestAnimationFrame(() => focus(to));
      } else focus(to);
    } else if (e.key === 'Delete') {
      e.preventDefault();
      remove(tile.subject);
    }
  };
  return (
    <ul
      ref={list}
      className="grid grid-cols-[repeat(auto-fill,minmax(138px,1fr))] gap-x-4 gap-y-5"
      aria-label="Pictures in their order"
    >
      {tiles.map((tile, i) => (
        <li
          key={tile.subject}
          draggable
          onDragStart={(e) => {
            e.dataTransfer.effectAllowed = 'move';
            e.dataTransfer.setData('text/plain', tile.subject);
            setDragged(tile.subject);
          }}
          onDragEnd={() => {
            setDragged(null);
            setOver(null);
          }}
          onDragOver={(e) => {
            if (!dragged) return;
            e.preventDefault();
            setOver(i);
          }}
          onDrop={(e) => {
            e.preventDefault();
            if (dragged) move(dragged, i);
            setDragged(null);
            setOver(null);
          }}
          className={`relative ${dragged === tile.subject ? 'opacity-40' : ''} ${over === i && dragged && dragged !== tile.subject ? 'before:absolute before:-left-2 before:inset-y-0 before:w-0.5 before:bg-primary' : ''}`}
        >
          <button
            type="button"
            aria-label={`Picture ${tile.number}: ${tile.name}`}
            aria-pressed={chosen === tile.subject}
            title="Drag it, or Alt and arrow keys move it"
            onClick={() => choose(tile.subject)}
            onKeyDown={(e) => onKey(e, tile)}
            className={`relative block w-full aspect-square rounded-paper border border-hairline bg-sheet overflow-hidden ${chosen === tile.subject ? 'outline-2 outline-ink outline-offset-1' : ''}`}
          >
            {tile.href ? (
              <img
                src={tile.href}
                alt={tile.alt}
                draggable={false}
                className={`size-full object-contain ${tile.state === 'old' ? 'opacity-60' : ''}`}
              />
            ) : (
              <span className="absolute inset-0 grid place-items-center text-small text-muted">
                {tile.problem ? '✕ not made' : '◔ being made'}
              </span>
            )}
            {tile.state === 'old' && !tile.problem && (
              <span className="absolute left-1.5 top-1.5 rounded-paper bg-sheet/90 border border-hairline px-1.5 text-tiny text-muted">
                ◔ renewing
              </span>
            )}
          </button>
          <p className="mt-1 flex items-baseline gap-1.5 text-small leading-tight">
            <span className="text-muted tabular-nums">{tile.number}</span>
            <span className="min-w-0 break-words">{tile.name}</span>
          </p>
          {tile.problem && (
            <p className="text-tiny text-stop border-l-[3px] border-stop pl-1.5">
              {tile.state === 'old' ? 'An earlier design is in view. ' : ''}
              {tile.problem}
            </p>
          )}
          {tile.number === 1 && <p className="text-tiny text-kept">● main picture</p>}
          {tile.number > 1 && tile.main && <p className="text-tiny text-kept">● main of {tile.mainOf}</p>}
          {tile.likeNumber !== null && (
            <p className="text-tiny text-caution border-l-[3px] border-caution pl-1.5">
              looks like no. {tile.likeNumber}
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
