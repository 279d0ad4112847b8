'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { Sheet } from '@/ui/Sheet';
import { useRested } from '@/ui/use-rested';
import { count } from '@/core/words/count';
import { useDesk, type BenchArtwork } from '../desk';
import { usePlaceArtwork } from './place-artwork';

const TYPING_MS = 200;
const PAGE = 40;

interface Found {
  readonly total: number;
  readonly tags: readonly { readonly tag: string; readonly count: number }[];
  readonly artwork: readonly BenchArtwork[];
}

/** Artwork of the workspace by words of its name or tags, page after page. */
function useArtworkSearch(open: boolean) {
  const [words, setWords] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const [limit, setLimit] = useState(PAGE);
  const rested = useRested(words, TYPING_MS);
  const asked = new URLSearchParams({
    limit: String(limit),
    ...(rested ? { q: rested } : {}),
    ...(tag ? { tag } : {}),
  }).toString();
  const { data: found = null, error } = useQuery(
    {
      queryKey: ['artwork', { asked }],
      queryFn: () => call<Found>('GET', `/artwork?${asked}`),
      enabled: open,
      placeholderData: keepPreviousData,
    },
    queries(),
  );
  const look = (change: () => void) => {
    setLimit(PAGE);
    change();
  };
  return {
    words,
    tag,
    found,
    problem: error?.message ?? null,
    setWords: (typed: string) => look(() => setWords(typed)),
    setTag: (next: string | null) => look(() => setTag(next)),
    more: () => setLimit((n) => Math.min(200, n + PAGE)),
  };
}

/** Artwork that was uploaded before, to place again; and the way to upload more. */
export function Shelf({
  open,
  onClose,
  onFiles,
}: {
  open: boolean;
  onClose: () => void;
  onFiles: (files: File[]) => void;
}) {
  const { words, tag, found, problem, setWords, setTag, more } = useArtworkSearch(open);
  const input = useRef<HTMLInputElement>(null);
  const ready = found?.artwork.filter((artwork) => artwork.state === 'ready' && artwork.facts) ?? [];
  return (
    <Sheet open={open} onClose={onClose} title="Add artwork" wide>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button kind="primary" onClick={() => input.current?.click()}>
          Upload files …
        </Button>
        <span className="text-tiny text-muted">PNG, JPEG, WebP or SVG, up to 100 MB and 120 megapixels</span>
        <input
          type="search"
          aria-label="Search your artwork"
          placeholder="Search by name or tag"
          data-autofocus
          value={words}
          onChange={(e) => setWords(e.target.value)}
          className="ml-auto w-56 rounded-paper border border-edge bg-sheet px-2 py-1.5 text-small"
        />
        <input
          ref={input}
          type="file"
          multiple
          accept="image/png,image/jpeg,image/webp,image/svg+xml"
          className="hidden"
          aria-label="Files to upload"
          onChange={(e) => {
            onFiles([...(e.target.files ?? [])]);
            onClose();
          }}
        />
      </div>
      <Tags tags={found?.tags ?? []} tag={tag} onTag={setTag} />
      {problem && (
        <p role="alert" className="text-small text-stop">
          {problem}
        </p>
      )}
      {found !== null && ready.length === 0 && (
        <p className="text-muted">
          {words || tag
            ? 'No artwork of yours has that in its name or tags.'
            : 'No artwork yet. Upload a file: it is kept here for all your products.'}
        </p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
        {ready.map((artwork) => (
          <Piece key={artwork.id} artwork={artwork} onPlaced={onClose} />
        ))}
      </ul>
      {found !== null && <More found={found} onMore={more} />}
    </Sheet>
  );
}

function Tags({ tags, tag, onTag }: Pick<Found, 'tags'> & { tag: string | null; onTag: (tag: string | null) => void }) {
  if (tags.length === 0) return null;
  return (
    <ul className="mb-3 flex max-h-16 flex-wrap gap-x-3 gap-y-1 overflow-auto text-small" aria-label="Tags">
      {tags.slice(0, 30).map((one) => (
        <li key={one.tag}>
          <button
            type="button"
            aria-pressed={tag === one.tag}
            onClick={() => onTag(tag === one.tag ? null : one.tag)}
            className={`min-h-6 rounded-paper px-1.5 ${tag === one.tag ? 'bg-selection font-semibold' : 'text-muted hover:text-ink'}`}
          >
            {one.tag} <span className="text-tiny">{one.count}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function More({ found, onMore }: { found: Found; onMore: () => void }) {
  if (found.total <= found.artwork.length) return null;
  return (
    <p className="mt-3 flex items-baseline gap-4 text-small text-muted">
      {found.artwork.length} of {count(found.total, 'file')}
      {found.artwork.length < 200 ? (
        <Button kind="quiet" onClick={onMore}>
          Show more
        </Button>
      ) : (
        <span>Search to see the others.</span>
      )}
    </p>
  );
}

/** One artwork of the shelf; a click places it. */
function Piece({ artwork, onPlaced }: { artwork: BenchArtwork; onPlaced: () => void }) {
  const { addArtwork } = useDesk('addArtwork');
  const place = usePlaceArtwork();
  return (
    <li>
      <button
        type="button"
        className="w-full rounded-paper border border-edge p-2 text-left hover:border-ink"
        onClick={() => {
          addArtwork(artwork);
          place(artwork);
          onPlaced();
        }}
      >
        <span className="block h-28 rounded-[2px] bg-[repeating-conic-gradient(var(--color-board)_0_25%,var(--color-sheet)_0_50%)] bg-[length:12px_12px]">
          <img
            src={`/api/v1/artwork/${artwork.id}/thumbnail`}
            alt=""
            loading="lazy"
            className="size-full object-contain"
          />
        </span>
        <span className="mt-1.5 block truncate font-medium">{artwork.name}</span>
        <span className="block text-tiny text-muted">
          {artwork.facts!.vector ? 'vector' : `${artwork.facts!.widthPx} × ${artwork.facts!.heightPx} px`}
        </span>
      </button>
    </li>
  );
}
