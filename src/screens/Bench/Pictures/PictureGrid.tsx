'use client';

import { closestCenter, DndContext, MouseSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core';
import { rectSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { useId, useRef } from 'react';
import { ownEntry } from '@/core/own-entry';
import type { PictureTile } from './view';

/** How far a mouse goes, px, or how long a finger rests, ms, before a tile is taken along: else it is chosen. */
const FAR_PX = 6;
const REST_MS = 220;

/** The pictures as they will be seen, in their order: moved with the mouse, a finger, or Alt and the arrow keys. */
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
  const id = useId();
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: FAR_PX } }),
    useSensor(TouchSensor, { activationConstraint: { delay: REST_MS, tolerance: FAR_PX } }),
  );
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
  const subjects = tiles.map(({ subject }) => subject);
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) move(String(active.id), subjects.indexOf(String(over.id)));
      }}
    >
      <SortableContext items={subjects} strategy={rectSortingStrategy}>
        <ul
          ref={list}
          className="grid grid-cols-[repeat(auto-fill,minmax(138px,1fr))] gap-x-4 gap-y-5"
          aria-label="Pictures in their order"
        >
          {tiles.map((tile) => (
            <Tile
              key={tile.subject}
              tile={tile}
              chosen={chosen === tile.subject}
              onChoose={() => choose(tile.subject)}
              onKey={(e) => onKey(e, tile)}
            />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  );
}

/** One picture with its number and what is to be known of it. */
function Tile({
  tile,
  chosen,
  onChoose,
  onKey,
}: {
  tile: PictureTile;
  chosen: boolean;
  onChoose: () => void;
  onKey: (e: React.KeyboardEvent) => void;
}) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: tile.subject });
  return (
    <li
      ref={setNodeRef}
      className={`relative ${isDragging ? 'z-10 opacity-60' : ''}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button
        type="button"
        aria-label={`Picture ${tile.number}: ${tile.name}`}
        aria-pressed={chosen}
        title="Drag it, or Alt and arrow keys move it"
        onClick={onChoose}
        {...listeners}
        onKeyDown={onKey}
        className={`relative block w-full aspect-square rounded-paper border border-hairline bg-sheet overflow-hidden ${chosen ? 'outline-2 outline-ink outline-offset-1' : ''}`}
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
        <p className="text-tiny text-caution border-l-[3px] border-caution pl-1.5">looks like no. {tile.likeNumber}</p>
      )}
    </li>
  );
}
