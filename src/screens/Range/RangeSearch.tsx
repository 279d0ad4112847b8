'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useId, useState } from 'react';
import type { RangeQuery } from './load';
import { rangeAddress } from './view';

/** After the last letter, ms. */
const TYPE_MS = 300;

/** Finds products by words of their titles, or by how a SKU of theirs begins. */
export function RangeSearch({ asked: query }: { asked: RangeQuery }) {
  const router = useRouter();
  const id = useId();
  const [text, setText] = useState(query.words);
  // What is shown by this field's own wish; another address (a link, going back) is followed.
  const [shown, setShown] = useState(query.words);
  const [asked, setAsked] = useState(query.words);
  if (query.words !== shown) {
    setShown(query.words);
    if (query.words !== asked) {
      setAsked(query.words);
      setText(query.words);
    }
  }
  useEffect(() => {
    const wanted = text.trim();
    if (wanted === asked) return;
    const timer = setTimeout(() => {
      setAsked(wanted);
      router.replace(rangeAddress({ ...query, words: wanted, after: null }));
    }, TYPE_MS);
    return () => clearTimeout(timer);
  }, [text, asked, router, query]);
  return (
    <div className="flex items-baseline gap-2 text-small">
      <label htmlFor={id} className="text-muted">
        Search
      </label>
      <input
        id={id}
        type="search"
        value={text}
        maxLength={200}
        placeholder="title, or how a SKU begins"
        onChange={(e) => setText(e.target.value)}
        className="w-60 rounded-paper border border-edge bg-sheet px-2 py-1"
      />
    </div>
  );
}
