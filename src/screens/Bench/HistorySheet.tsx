'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { documentBefore } from '@/bench/rewind';
import type { Operation } from '@/core/document/patch';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';
import { dayAndTime } from '@/ui/when';

interface RevisionView {
  readonly revision: number;
  readonly firstRevision: number;
  readonly undo: readonly Operation[];
  readonly by: string;
  readonly label: string;
  readonly createdAt: string;
}

/** Who changed what when, and the way back to any of it. Going back is an edit like any other: it can be undone. */
export function HistorySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data, session, edit } = useDesk('data', 'session', 'edit');
  const { id } = data.product;
  const [problem, setProblem] = useState<string | null>(null);
  const { data: rows, error } = useQuery(
    {
      queryKey: ['product', id, 'revisions'],
      // What is typed is saved first: it is part of the history.
      queryFn: () =>
        session
          .flush()
          .then(() => call<{ revisions: RevisionView[] }>('GET', `/products/${id}/revisions`))
          .then(({ revisions }) => revisions),
      enabled: open,
      refetchOnMount: 'always',
    },
    queries(),
  );
  const goBack = (index: number) => {
    const row = rows![index]!;
    try {
      edit(`Restore to before “${row.label || `revision ${row.revision}`}”`, (doc) =>
        documentBefore(doc, rows!, index),
      );
      onClose();
    } catch {
      setProblem('Something was changed in between. Close this and open it again.');
    }
  };
  return (
    <Sheet open={open} onClose={onClose} title="History" wide>
      {(problem ?? error) && <Alert className="mb-3">{problem ?? error!.message}</Alert>}
      {rows?.length === 0 && <p className="text-muted">Nothing was changed yet.</p>}
      <ol className="max-h-[60vh] overflow-auto">
        {rows?.map((row, index) => (
          <li key={row.revision} className="flex items-center gap-4 border-b border-hairline py-1.5 text-small">
            <span className="w-36 text-muted">{dayAndTime(row.createdAt)}</span>
            <span className="w-32 truncate">{row.by}</span>
            <span className="flex-1 truncate">
              {row.label || 'Changed through the API'}
              {row.firstRevision < row.revision && (
                <span className="text-muted"> and {row.revision - row.firstRevision} before it</span>
              )}
            </span>
            <Button
              kind="quiet"
              aria-label={`Restore the product as it was before “${row.label || 'changed through the API'}”, ${dayAndTime(row.createdAt)}`}
              onClick={() => goBack(index)}
            >
              Restore to before this
            </Button>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
