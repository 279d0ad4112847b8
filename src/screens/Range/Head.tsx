'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useId, useState } from 'react';
import { isWhole, MAX_WORDS_LETTERS } from '@/core/range';
import { count } from '@/core/words/count';
import { Select } from '@/ui/Select';
import { NamedSetsMenu } from '../NamedSetsMenu';
import type { RangeQuery } from './load';
import type { RangeState } from './use-range';
import { queryText, readRangeQuery, SHELF_NAMES, SORT_NAMES } from './view';

/** After the last letter, ms. */
const TYPE_MS = 250;

/** Finds products by words of their titles, or by how a SKU of theirs begins. */
function Search({ range }: { range: RangeState }) {
  const id = useId();
  const { words } = range.query.filter;
  const [text, setText] = useState(words);
  // What is shown by this field's own wish; another question (a view, going back) is followed.
  const [asked, setAsked] = useState(words);
  if (words !== asked) {
    setAsked(words);
    setText(words);
  }
  const { change } = range;
  useEffect(() => {
    const wanted = text.trim();
    if (wanted === asked) return;
    const timer = setTimeout(() => {
      setAsked(wanted);
      change({ words: wanted });
    }, TYPE_MS);
    return () => clearTimeout(timer);
  }, [text, asked, change]);
  return (
    <span className="flex items-baseline gap-2 text-small">
      <label htmlFor={id} className="text-muted">
        Search
      </label>
      <input
        id={id}
        type="search"
        value={text}
        maxLength={MAX_WORDS_LETTERS}
        placeholder="title, or how a SKU begins"
        onChange={(event) => setText(event.target.value)}
        className="w-56 rounded-paper border border-edge bg-sheet px-2 py-1"
      />
    </span>
  );
}

/** What is shown, in which order, and where else one goes from here. */
export function Head({ range }: { range: RangeState }) {
  const router = useRouter();
  const { query, counts, set } = range;
  const text = queryText(query);
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1.5 px-[18px] py-2.5">
      <h1 className="font-display text-[22px] font-semibold">Range</h1>
      <span className="text-small text-muted" role="status">
        {count(counts.total, 'product')}
        {isWhole(query.filter) ? '' : ' found'}
      </span>
      <Search range={range} />
      <span className="ml-auto flex flex-wrap items-center gap-x-5 gap-y-1.5 text-small">
        <NamedSetsMenu
          label="Saved views"
          kind="range-view"
          empty="Filter or sort the range as you need it, and keep that under a name to come back to it."
          current={text === '' ? null : { query: text }}
          onUse={({ query: kept }) => set(readRangeQuery(new URLSearchParams(kept)))}
        />
        <Select
          label="Sort"
          value={query.sort}
          choices={Object.entries(SORT_NAMES).map(([value, name]) => ({ value, name }))}
          onChange={(sort) => set({ ...query, sort: sort as RangeQuery['sort'] })}
        />
        <Select
          label="Show"
          value="range"
          choices={Object.entries(SHELF_NAMES).map(([value, name]) => ({ value, name }))}
          onChange={(shelf) => shelf !== 'range' && router.push(`/range?in=${shelf}`)}
        />
        <Link className="text-primary underline" href="/changes">
          Changes
        </Link>
        <Link className="text-primary underline" href="/prices">
          Prices
        </Link>
        <Link className="text-primary underline" href="/sales">
          Sales
        </Link>
        <Link className="text-primary underline" href="/sends">
          Sends
        </Link>
        <Link
          href="/blanks"
          className="rounded-paper bg-primary px-3 py-1.5 font-semibold text-sheet hover:bg-primary-deep"
        >
          New product
        </Link>
      </span>
    </div>
  );
}
