'use client';

import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from './desk';

const shown = (value: unknown): string =>
  value === undefined ? '(not there)' : typeof value === 'string' ? value || '(empty)' : JSON.stringify(value);

/** Names a place in the document for a person. */
function placeName(path: string): string {
  const [room, ...rest] = path.split('/').slice(1);
  const last = rest.at(-1) ?? '';
  const words: Record<string, string> = {
    title: 'Title',
    description: 'Description',
    tags: 'Tags',
    placement: 'Where the layer sits',
    aim: 'Price',
    ending: 'Ending',
    variants: 'Colors and sizes',
  };
  return ownEntry(words, last) ?? ownEntry(words, room ?? '') ?? `${room}: ${last}`;
}

/** What someone else changed meanwhile, beside what is changed here; nothing is lost before one is chosen. */
export function ConflictSheet() {
  const { state, session } = useDesk();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const choose = async (choice: 'mine' | 'theirs') => {
    setBusy(true);
    setProblem(null);
    await session.resolve(choice).catch((error: Error) => setProblem(error.message));
    setBusy(false);
  };
  return (
    <Sheet open={state.save === 'conflict'} title="Changed in two places" wide>
      <p className="mb-3">
        {state.conflictBy ?? 'Someone'} changed the same thing in another tab since you loaded it. Nothing was
        overwritten.
      </p>
      {problem && <Alert>{problem}</Alert>}
      <table className="w-full text-small mb-4 table-fixed">
        <thead className="text-left text-muted border-y border-hairline">
          <tr>
            <th className="font-normal py-1.5 w-40">What</th>
            <th className="font-normal">There now</th>
            <th className="font-normal">Yours</th>
          </tr>
        </thead>
        <tbody>
          {state.conflicts.map((conflict) => (
            <tr key={conflict.path} className="border-b border-hairline align-top [&>td]:py-1.5">
              <td>{placeName(conflict.path)}</td>
              <td className="pr-4 break-words" data-testid="theirs">
                {shown(conflict.theirs)}
              </td>
              <td className="break-words" data-testid="yours">
                {shown(conflict.yours)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex gap-3">
        <Button kind="primary" disabled={busy} onClick={() => void choose('theirs')}>
          Keep what is there
        </Button>
        <Button disabled={busy} onClick={() => void choose('mine')}>
          Put mine in its place
        </Button>
      </div>
    </Sheet>
  );
}
