'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Pin } from 'lucide-react';
import { chooseThread } from '@/bench/threads';
import { MIN_STROKE_MM } from '@/core/embroidery/strokes';
import { MAX_THREADS } from '@/core/embroidery/limits';
import { threadByCode, THREADS } from '@/core/embroidery/palette';
import { ownEntry } from '@/core/own-entry';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { IconButton } from '@/ui/IconButton';
import { Swatch } from '@/ui/Mark';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';

interface SewnThread {
  readonly code: string;
  readonly from: string;
  readonly share: number;
  /** Color of the design that it is sewn for, and how far that is from the thread (CIEDE2000). */
  readonly color: string;
  readonly difference: number;
}

interface Sewn {
  readonly threads: readonly SewnThread[];
  /** Share of what is sewn that is thinner than thread can be. */
  readonly thinShare: number;
}

/** From here on thread and design are seen to be of different colors even when they do not lie side by side (chosen by eye, no source). */
const FAR = 10;
/** Corners alone make a few hundredths. */
const MUCH = 0.08;

/** The threads that the area in view is sewn in; each can be kept whatever the design is, or swapped for another. */
export function Threads() {
  const { data, areaKey, geometryId, color, revision } = useDesk('data', 'areaKey', 'geometryId', 'color', 'revision');
  const asked = new URLSearchParams({
    area: areaKey,
    geometry: geometryId,
    revision: String(revision),
    ...(color ? { color } : {}),
  }).toString();
  const { data: sewn } = useQuery(
    {
      queryKey: ['product', data.product.id, 'threads', asked],
      queryFn: () => call<Sewn>('GET', `/products/${data.product.id}/threads?${asked}`),
      placeholderData: keepPreviousData,
    },
    queries(),
  );
  return (
    <section aria-label="Threads" className="border-t border-hairline px-3 py-2">
      <h3 className="font-display text-[14px]">
        Threads {sewn && <span className="text-tiny text-muted">{`${sewn.threads.length} of ${MAX_THREADS}`}</span>}
      </h3>
      <ul>
        {(sewn?.threads ?? []).map((one) => (
          <ThreadLine key={one.from} sewn={one} />
        ))}
      </ul>
      {sewn && sewn.thinShare > MUCH && (
        <p className="mt-1 border-l-[3px] border-caution pl-2 text-tiny">
          <span className="text-caution">Warning:</span> {Math.round(sewn.thinShare * 100)} % of it is thinner than{' '}
          {MIN_STROKE_MM} mm, the least that thread can sew. Make strokes bolder or the design larger.
        </p>
      )}
      {!sewn && <p className="text-tiny text-muted">They are chosen once the design is saved.</p>}
    </section>
  );
}

/** One thread: what it is sewn for, what it is swapped for, and whether it is kept. */
function ThreadLine({ sewn: { code, from, share, color: own, difference } }: { sewn: SewnThread }) {
  const { areaKey, designed, edit } = useDesk('areaKey', 'designed', 'edit');
  const pinned = ownEntry(ownEntry(designed.areas, areaKey)?.threads?.pinned ?? {}, from) !== undefined;
  const thread = threadByCode(code)!;
  const asked = threadByCode(from)?.name ?? from;
  return (
    <li className="py-0.5">
      <span className="flex items-center gap-1.5 min-h-7">
        <span className="inline-flex shrink-0 items-center gap-1">
          <Swatch hex={own} name={`Design’s color ${own}`} />
          <span aria-hidden className="text-muted">
            →
          </span>
          <Swatch hex={thread.hex} name={thread.name} />
        </span>
        <Select
          label={`Thread for ${asked}`}
          quiet
          value={code}
          choices={THREADS.map((one) => ({ value: one.code, name: one.name }))}
          onChange={(next) => edit('Swap thread', (d) => chooseThread(d, areaKey, { swap: from, by: next }))}
        />
        <span className="ml-auto">
          <IconButton
            name={`Keep ${asked}`}
            title="Kept whatever the colors of the design are"
            aria-pressed={pinned}
            className={pinned ? 'bg-selection text-ink' : ''}
            onClick={() => edit('Keep thread', (d) => chooseThread(d, areaKey, { pin: from }))}
          >
            <Pin size={14} aria-hidden />
          </IconButton>
        </span>
      </span>
      <span className="block pl-14 text-tiny text-muted">
        {Math.max(1, Math.round(share * 100))} % of it,{' '}
        <span
          className={difference >= FAR ? 'text-caution' : ''}
          title={`Difference between the design’s color and the thread (CIEDE2000): ${difference >= FAR ? 'they look different' : 'they look alike'}`}
        >
          ΔE {difference.toFixed(1)}
        </span>
      </span>
    </li>
  );
}
