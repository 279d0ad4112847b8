'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { queries } from '@/ui/queries';
import { useRested } from '@/ui/use-rested';

interface Found {
  readonly id: string;
  readonly name: string;
  readonly partner: { readonly name: string };
  readonly kind: string;
}

const TYPING_MS = 200;
const SHOWN = 8;

/** Finds a blank by words, and gives the one that is chosen. */
export function ChooseBlank({ except, onChoose }: { except: string | null; onChoose: (id: string) => void }) {
  const [words, setWords] = useState('');
  const rested = useRested(words, TYPING_MS);
  const path = `/blanks?${new URLSearchParams(rested ? { q: rested } : {}).toString()}`;
  const { data: found = null, error } = useQuery(
    {
      queryKey: ['catalog', path],
      queryFn: () => call<{ blanks: Found[] }>('GET', path).then(({ blanks }) => blanks),
      placeholderData: keepPreviousData,
    },
    queries(),
  );
  const shown = (found ?? []).filter(({ id }) => id !== except);
  return (
    <div>
      <TextField label="Which blank" hint="name, material, kind" value={words} onChange={setWords} autoFocus />
      {error && <Alert>{error.message}</Alert>}
      {found !== null && shown.length === 0 && <p className="text-small text-muted">No blank is called that.</p>}
      <ul className="text-small">
        {shown.slice(0, SHOWN).map((blank) => (
          <li key={blank.id} className="flex items-center gap-3 border-b border-hairline py-1.5">
            <img
              src={`/api/v1/blanks/${blank.id}/picture?size=thumbnail`}
              alt=""
              loading="lazy"
              className="size-10 rounded-paper border border-hairline bg-board object-cover"
            />
            <span className="min-w-0 flex-1">
              <span className="block truncate font-semibold">{blank.name}</span>
              <span className="block text-tiny text-muted">
                {blank.kind} · {blank.partner.name}
              </span>
            </span>
            <Button onClick={() => onChoose(blank.id)}>Choose</Button>
          </li>
        ))}
      </ul>
      {shown.length > SHOWN && (
        <p className="mt-2 text-tiny text-muted">{shown.length - SHOWN} or more others: type a word of the name.</p>
      )}
    </div>
  );
}
