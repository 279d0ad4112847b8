'use client';

import { useRouter } from 'next/navigation';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { queries } from '@/ui/queries';
import { Sheet } from '@/ui/Sheet';
import { useRested } from '@/ui/use-rested';
import { count } from '@/core/words/count';
import { useDesk } from './desk';

interface Found {
  readonly id: string;
  readonly name: string;
  readonly partner: { readonly name: string };
  readonly kind: string;
}

interface Preview {
  readonly blank: { readonly id: string; readonly name: string; readonly partner: string };
  readonly areas: readonly { readonly from: string; readonly to: string | null }[];
  readonly variantCount: number;
  readonly notes: readonly string[];
}

const TYPING_MS = 200;
const SHOWN = 8;

/** Puts the design of this product on another blank: first which, then what fits there, then a new product. */
export function OtherBlank({ onClose }: { onClose: () => void }) {
  const { data, session } = useDesk('data', 'session');
  const router = useRouter();
  const [preview, setPreview] = useState<Preview | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const say = (error: Error) => setProblem(error.message);
  const look = async (blankId: string) => {
    await session.flush();
    await call<Preview>('GET', `/products/${data.product.id}/copies?blankId=${blankId}`).then((told) => {
      setProblem(null);
      setPreview(told);
    }, say);
  };
  const make = async (blankId: string) => {
    setBusy(true);
    await call<{ id: string }>('POST', `/products/${data.product.id}/copies`, { blankId }).then(
      (made) => router.push(`/products/${made.id}?part=artwork`),
      say,
    );
    setBusy(false);
  };
  return (
    <Sheet open onClose={onClose} title="Put on another blank">
      {problem && <Alert>{problem}</Alert>}
      {preview === null ? (
        <ChooseBlank except={data.blank.id} onChoose={(id) => void look(id)} />
      ) : (
        <div className="text-small">
          <p>
            A new product on <strong>{preview.blank.name}</strong> by {preview.blank.partner}, with the same design,
            prices and words. This product stays as it is.
          </p>
          <table className="mt-3 w-full border-t border-hairline">
            <tbody>
              {preview.areas.map(({ from, to }) => (
                <tr key={from} className="border-b border-hairline">
                  <th scope="row" className="py-1.5 text-left font-normal">
                    {from}
                  </th>
                  <td className={to === null ? 'text-caution' : ''}>{to === null ? 'no place there' : `→ ${to}`}</td>
                </tr>
              ))}
              <tr className="border-b border-hairline">
                <th scope="row" className="py-1.5 text-left font-normal">
                  Chosen
                </th>
                <td>{count(preview.variantCount, 'variant')}</td>
              </tr>
            </tbody>
          </table>
          {preview.notes.length > 0 && (
            <ul className="mt-3 grid gap-1.5">
              {preview.notes.map((note) => (
                <li key={note} className="border-l-[3px] border-caution pl-2">
                  {note}
                </li>
              ))}
            </ul>
          )}
          <div className="mt-4 flex items-center gap-5">
            <Button kind="primary" disabled={busy} onClick={() => void make(preview.blank.id)}>
              {busy ? 'Making it …' : 'Make the product'}
            </Button>
            <Button kind="quiet" onClick={() => setPreview(null)}>
              Choose another blank
            </Button>
          </div>
        </div>
      )}
    </Sheet>
  );
}

function ChooseBlank({ except, onChoose }: { except: string; onChoose: (id: string) => void }) {
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
