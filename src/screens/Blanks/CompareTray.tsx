'use client';

import Link from 'next/link';
import { X } from 'lucide-react';
import { MAX_COMPARED } from '@/core/catalog/limits';
import { IconButton } from '@/ui/IconButton';

export interface TrayBlank {
  readonly id: string;
  readonly name: string;
  readonly partner: string;
}

/** Blanks laid aside to be compared. */
export function CompareTray({
  blanks,
  country,
  items,
  onDrop,
}: {
  blanks: readonly TrayBlank[];
  country: string;
  items: number;
  onDrop: (id: string) => void;
}) {
  if (blanks.length === 0) return null;
  const params = new URLSearchParams([
    ...blanks.map(({ id }) => ['id', id]),
    ['to', country],
    ...(items > 1 ? [['items', String(items)]] : []),
  ]);
  return (
    <section
      aria-label="Compare tray"
      className="flex items-center gap-4 border-t border-ink/60 bg-board px-[18px] h-12 text-small"
    >
      <span className="font-display text-[14px]">To compare</span>
      <ul className="flex min-w-0 gap-3">
        {blanks.map((blank) => (
          <li
            key={blank.id}
            className="flex min-w-0 items-center gap-1 rounded-paper bg-sheet border border-hairline pl-2"
          >
            <span className="truncate">
              {blank.name} <span className="text-muted">{blank.partner}</span>
            </span>
            <IconButton name={`Do not compare ${blank.name}, ${blank.partner}`} onClick={() => onDrop(blank.id)}>
              <X size={14} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      <span className="ml-auto text-muted">
        {blanks.length < 2 ? 'choose one more' : `${blanks.length} of ${MAX_COMPARED}`}
      </span>
      {blanks.length > 1 && (
        <Link
          href={`/blanks/compare?${params.toString()}`}
          className="rounded-paper bg-primary px-3 py-1.5 font-semibold text-sheet hover:bg-primary-deep"
        >
          Compare side by side
        </Link>
      )}
    </section>
  );
}
