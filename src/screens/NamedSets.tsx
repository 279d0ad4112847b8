'use client';

import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { MAX_SET_NAME, type SetContent, type SetKind } from '@/core/named-sets';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { queries } from '@/ui/queries';
import { saidWithUndo } from '@/ui/with-undo';

interface NamedSet<C> {
  readonly id: string;
  readonly name: string;
  readonly content: C;
}

/** What is kept under names of one kind: to be used, kept anew, deleted. */
export function NamedSets<C extends SetContent>({
  kind,
  empty,
  current,
  onUse,
}: {
  kind: SetKind;
  /** What it is for, while nothing is kept yet. */
  empty: string;
  /** What would be kept now; null when there is nothing to keep. */
  current: C | null;
  onUse: (content: C, name: string) => void;
}) {
  const queryKey = ['named-set', kind];
  const { data: sets, error } = useQuery(
    {
      queryKey,
      queryFn: () => call<{ sets: NamedSet<C>[] }>('GET', `/named-sets?kind=${kind}`).then((answer) => answer.sets),
    },
    queries(),
  );
  const [problem, setProblem] = useState<string | null>(null);
  const [name, setName] = useState('');
  const act = async (what: () => Promise<unknown>) => {
    try {
      await what();
      setProblem(null);
      await queries().invalidateQueries({ queryKey });
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
  const keep = (as: string, content: C) => act(() => call('POST', '/named-sets', { kind, name: as, content }));
  const remove = async (set: NamedSet<C>) => {
    await act(() => call('DELETE', `/named-sets/${set.id}`));
    saidWithUndo(`${set.name} was deleted.`, () => keep(set.name, set.content));
  };
  const says = problem ?? error?.message;
  return (
    <div className="grid gap-2.5 text-small">
      {says && <Alert>{says}</Alert>}
      {sets?.length === 0 && <p className="text-muted">{empty}</p>}
      <ul className="max-h-64 overflow-auto">
        {sets?.map((set) => (
          <li key={set.id} className="flex items-center gap-2 border-b border-hairline last:border-0">
            <button
              type="button"
              className="min-h-8 min-w-0 flex-1 truncate text-left hover:text-primary"
              onClick={() => onUse(set.content, set.name)}
            >
              {set.name}
            </button>
            <IconButton name={`Delete ${set.name}`} onClick={() => void remove(set)}>
              <X size={14} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      {current !== null && (
        <form
          className="flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void keep(name.trim(), current).then(() => setName(''));
          }}
        >
          <div className="min-w-0 flex-1">
            <TextField label="Save this as" value={name} onChange={(typed) => setName(typed.slice(0, MAX_SET_NAME))} />
          </div>
          <Button type="submit" disabled={name.trim() === ''}>
            Save
          </Button>
        </form>
      )}
    </div>
  );
}
