'use client';

import Link from 'next/link';
import { useEffect, useState } from 'react';
import { toast } from '@/ui/toast';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import type { ArtworkItem, Use } from './load';
import { Replace } from './Replace';
import { factLines, isLight, readTags, remarks } from './view';

const WORDS = { stop: 'text-stop', warn: 'text-caution', note: 'text-muted' } as const;

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
  const [uses, setUses] = useState<readonly Use[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [replacing, setReplacing] = useState(false);
  const [sure, setSure] = useState(false);
  useEffect(() => {
    let current = true;
    call<{ products: Use[] }>('GET', `/artwork/${item.id}/uses`).then(
      (answer) => current && setUses(answer.products),
      (e: Error) => current && setError(e.message),
    );
    return () => {
      current = false;
    };
  }, [item.id, item.products]);

  const change = (part: { name?: string; tags?: string[] }) =>
    void call('PATCH', `/artwork/${item.id}`, part).then(onChanged, (e: Error) => toast(e.message));
  const remove = () =>
    void call('DELETE', `/artwork/${item.id}`).then(onChanged, (e: Error) => {
      setSure(false);
      setError(e.message);
    });
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
          change({ name: typed.trim() });
        }}
      />
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
            read={(typed) => change({ tags: readTags(typed) })}
          />
        </dd>
      </dl>
      {told.length > 0 && (
        <ul className="mt-3 border-t border-hairline text-small">
          {told.map((says) => (
            <li key={says} className="border-b border-hairline py-1.5">
              {says}
            </li>
          ))}
        </ul>
      )}
      <h2 className="mt-4 font-display text-[17px]">Where it is used</h2>
      {error && <Alert className="mt-2">{error}</Alert>}
      {uses?.length === 0 && <p className="mt-1 text-small text-muted">In no product. It can be deleted.</p>}
      <ul className="mt-1 text-small">
        {uses?.map((use) => (
          <li key={use.productId} className="border-t border-hairline py-1.5">
            <Link href={`/products/${use.productId}`} className="text-primary underline underline-offset-2">
              {use.title}
            </Link>
            <span className="text-muted">
              {' '}
              {use.blank}
              {use.areas.length > 0 && `, ${use.areas.join(', ').toLocaleLowerCase('en')}`}
            </span>
            {use.findings.map((finding) => (
              <span key={finding.id} className="mt-0.5 flex gap-2">
                <span className={`w-8 shrink-0 ${WORDS[finding.severity]}`}>{finding.severity}</span>
                <span>{finding.says}</span>
              </span>
            ))}
          </li>
        ))}
      </ul>
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
        {sure ? (
          <Button kind="quiet" onClick={remove}>
            Delete it for good
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => setSure(true)} disabled={item.products > 0}>
            {item.products > 0 ? 'Delete (in use)' : 'Delete …'}
          </Button>
        )}
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
