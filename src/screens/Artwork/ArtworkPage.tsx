'use client';

import { Upload as UploadIcon } from 'lucide-react';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { useRested } from '@/ui/use-rested';
import { useFileDrop } from '@/ui/use-file-drop';
import type { Looked } from '../ready-artwork';
import { UploadList } from '../UploadList';
import { useUploads } from '../use-uploads';
import { Details } from './Details';
import type { ArtworkData, ArtworkList } from './load';
import { ArtworkGrid } from './ArtworkGrid';
import { TagMany } from './TagMany';
import { Select } from '@/ui/Select';

const SORTS = [
  { value: 'newest', name: 'newest' },
  { value: 'oldest', name: 'oldest' },
  { value: 'name', name: 'name' },
] as const;

const TYPE_MS = 200;

/** The seller's files: found by words and tags, each with its facts, where it is used and what the checks say of it there. */
export function ArtworkPage(data: ArtworkData) {
  const library = useLibrary(data);
  const { list, words, tag, load } = library;
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<string | null>(list.artwork[0]?.id ?? null);
  const uploads = useUploads(({ id }: Looked & { readonly id: string }) => {
    setChosen(id);
    load();
  });
  const { over, target } = useFileDrop(uploads.take);
  const item = list.artwork.find((one) => one.id === chosen) ?? null;
  return (
    <div
      {...target}
      className="h-full grid grid-cols-[minmax(0,1fr)_356px] max-[900px]:h-auto max-[900px]:grid-cols-[minmax(0,1fr)]"
    >
      <section aria-label="Artwork" className="min-h-0 overflow-auto px-[18px] py-4">
        <Head library={library} onFiles={uploads.take} />
        <Tags library={library} />
        {picked.size > 0 && (
          <TagMany
            items={list.artwork.filter((one) => picked.has(one.id))}
            onDone={() => load()}
            onClear={() => setPicked(new Set())}
          />
        )}
        {library.problem && <Alert className="mt-3">{library.problem}</Alert>}
        <UploadList uploads={uploads} className="mt-3 max-w-lg" />
        {list.artwork.length === 0 ? (
          <p className="mt-10 max-w-prose text-muted">
            {words || tag
              ? 'No artwork has these words. Look for fewer of them, or take the tag off.'
              : 'Upload PNG, JPEG, WebP or SVG files of up to 100 MB and 120 megapixels, or drop them anywhere on this page.'}
          </p>
        ) : (
          <ArtworkGrid
            items={list.artwork}
            chosen={chosen}
            picked={picked}
            dim={over}
            onChoose={setChosen}
            onPick={(id) =>
              setPicked((all) => new Set(all.has(id) ? [...all].filter((one) => one !== id) : [...all, id]))
            }
          />
        )}
        {list.artwork.length < list.total && (
          <Button kind="plain" className="mt-4" onClick={library.more}>
            Show {Math.min(200, list.total - list.artwork.length)} more
          </Button>
        )}
      </section>
      <aside aria-label="The chosen artwork" className="min-h-0 overflow-auto border-l border-hairline bg-sheet">
        {item ? (
          <Details key={item.id} item={item} all={list.artwork} onChanged={() => load()} />
        ) : (
          <p className="p-5 text-muted">Choose a file to see its facts and where it is used.</p>
        )}
      </aside>
    </div>
  );
}

/** What of the library is asked for, which the address follows, and what was found; while a question is new, what was found before. */
function useLibrary(first: ArtworkData) {
  const [words, setWords] = useState(first.words);
  const [tag, setTag] = useState(first.tag);
  const [sort, setSort] = useState(first.sort);
  const asked = addressOf({ words: useRested(words, TYPE_MS), tag, sort });
  useEffect(() => {
    const there = new URLSearchParams(window.location.search).toString();
    if (there !== asked) window.history.replaceState(null, '', asked ? `?${asked}` : window.location.pathname);
  }, [asked]);
  const { data, error, refetch, fetchNextPage } = useInfiniteQuery(
    {
      queryKey: ['artwork', { library: asked }],
      queryFn: ({ pageParam }) =>
        call<ArtworkList>('GET', `/artwork?${asked}${pageParam ? `&offset=${pageParam}` : ''}`),
      initialPageParam: 0,
      getNextPageParam: (_last, pages) => pages.reduce((sum, { artwork }) => sum + artwork.length, 0),
      placeholderData: keepPreviousData,
      meta: { topics: ['product'] },
      ...(asked === addressOf(first) && first.problem === null
        ? { initialData: { pages: [first.list], pageParams: [0] } }
        : {}),
    },
    queries(),
  );
  const pages = data?.pages ?? [first.list];
  const list: ArtworkList = { ...pages.at(-1)!, artwork: pages.flatMap(({ artwork }) => artwork) };
  const problem = error?.message ?? first.problem;
  const [load, more] = [() => void refetch(), () => void fetchNextPage()];
  return { list, problem, words, setWords, tag, setTag, sort, setSort, load, more };
}

const addressOf = ({ words, tag, sort }: Pick<ArtworkData, 'words' | 'tag' | 'sort'>): string =>
  new URLSearchParams({
    ...(words ? { q: words } : {}),
    ...(tag ? { tag } : {}),
    ...(sort === 'newest' ? {} : { sort }),
  }).toString();

type Library = ReturnType<typeof useLibrary>;

function Head({ library, onFiles }: { library: Library; onFiles: (files: readonly File[]) => void }) {
  const { list, words, setWords, tag, sort, setSort } = library;
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="flex items-baseline gap-4 flex-wrap">
      <h1 className="font-display text-[22px] font-semibold">Artwork</h1>
      <span className="text-small text-muted">
        {list.total === 1 ? '1 file' : `${list.total} files`}
        {(words || tag) && ' found'}
      </span>
      <input
        type="search"
        aria-label="Search artwork"
        placeholder="Words of a name or tag"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="ml-auto w-64 rounded-paper border border-edge bg-sheet px-2 py-1.5 text-base"
      />
      <Select label="Sort" value={sort} choices={SORTS} onChange={setSort} />
      <input
        ref={input}
        type="file"
        multiple
        className="hidden"
        aria-label="Artwork files"
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          // So that the same file can be uploaded again.
          e.target.value = '';
        }}
      />
      <Button kind="primary" onClick={() => input.current?.click()}>
        <UploadIcon size={15} aria-hidden className="mr-1.5 inline" />
        Upload artwork …
      </Button>
    </div>
  );
}

function Tags({ library: { list, tag, setTag } }: { library: Library }) {
  if (list.tags.length === 0) return null;
  return (
    <p className="mt-3 flex flex-wrap gap-1.5" aria-label="Tags">
      {list.tags.map((one) => (
        <button
          key={one.tag}
          type="button"
          aria-pressed={tag === one.tag}
          onClick={() => setTag(tag === one.tag ? null : one.tag)}
          className={`min-h-6 rounded-paper border px-2 text-small ${tag === one.tag ? 'border-ink bg-selection' : 'border-hairline bg-sheet'}`}
        >
          {one.tag} <span className="text-muted">{one.count}</span>
        </button>
      ))}
    </p>
  );
}
