'use client';

import { useState } from 'react';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import type { ArtworkItem } from './load';
import { Replace } from './Replace';
import { useChanges } from './use-changes';
import { Uses } from './Uses';
import { factLines, isLight, readTags, remarks } from './view';

/** One artwork: its picture and facts, where it is used and what the checks say of it there, and what can be done with it. */
export function Details({
  item,
  all,
  onChanged,
}: {
  item: ArtworkItem;
  all: readonly ArtworkItem[];
  onChanged: () => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [replacing, setReplacing] = useState(false);
  const { change, remove, deleting } = useChanges(item, onChanged, setProblem);
  const told = remarks(item);
  return (
    <div className="px-5 py-4">
      <div
        className={`grid h-52 place-items-center rounded-paper border border-hairline p-3 ${isLight(item) ? 'bg-muted' : 'bg-board'}`}
      >
        {item.state === 'ready' && (
          <img
            src={`/api/v1/artwork/${item.id}/preview`}
            alt={item.name}
            className="max-h-[184px] max-w-full object-contain"
          />
        )}
      </div>
      <EntryField
        label="Name"
        showLabel={false}
        align="left"
        width="w-full"
        className="mt-3 w-full"
        text={item.name}
        read={(typed) => {
          if (typed.trim() === '') throw new Error('An artwork needs a name.');
          void change({ name: typed.trim() });
        }}
      />
      <Facts item={item} onTags={(tags) => void change({ tags })} />
      {told.length > 0 && (
        <ul className="mt-3 border-t border-hairline text-small">
          {told.map((says) => (
            <li key={says} className="border-b border-hairline py-1.5">
              {says}
            </li>
          ))}
        </ul>
      )}
      <Uses item={item} problem={problem} asks={!deleting} />
      <div className="mt-4 flex flex-wrap items-baseline gap-4 border-t border-hairline pt-3">
        <a
          className="inline-grid min-h-6 place-items-center text-small text-primary underline underline-offset-2"
          href={`/api/v1/artwork/${item.id}/original`}
          download
        >
          Download the file
        </a>
        {item.products > 0 && (
          <Button kind="quiet" onClick={() => setReplacing(true)}>
            Replace everywhere …
          </Button>
        )}
        <Button kind="quiet" onClick={() => void remove()} disabled={item.products > 0 || deleting}>
          {item.products > 0 ? 'Delete (in use)' : 'Delete'}
        </Button>
      </div>
      {replacing && (
        <Replace
          item={item}
          all={all}
          onClose={() => setReplacing(false)}
          onDone={() => {
            setReplacing(false);
            onChanged();
          }}
        />
      )}
    </div>
  );
}

function Facts({ item, onTags }: { item: ArtworkItem; onTags: (tags: string[]) => void }) {
  return (
    <dl className="mt-3 grid grid-cols-[96px_minmax(0,1fr)] gap-y-1 text-small">
      {factLines(item).map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-muted">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
      <dt className="text-muted self-baseline">Tags</dt>
      <dd>
        <EntryField
          label="Tags, with commas between"
          showLabel={false}
          align="left"
          width="w-full"
          className="w-full"
          text={item.tags.join(', ')}
          read={(typed) => onTags(readTags(typed))}
        />
      </dd>
    </dl>
  );
}
