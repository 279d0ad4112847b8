'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { documentBefore } from '@/bench/rewind';
import type { ProductDocument } from '@/core/document/document';
import type { Operation } from '@/core/document/patch';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { Sheet } from '@/ui/Sheet';
import { dayAndTime } from '@/ui/when';
import { useDesk } from './desk';
import { historyChanges, MAX_CHANGES } from './history-view';
import { SmallProof } from './SmallProof';

interface RevisionView {
  readonly revision: number;
  readonly firstRevision: number;
  readonly patch: readonly Operation[];
  readonly undo: readonly Operation[];
  readonly by: string;
  readonly label: string;
  readonly createdAt: string;
}

const changedAgain = 'Something was changed in between. Close this and open it again.';

/** The product as it was before a revision; null where it was changed while one looked. */
function before(doc: ProductDocument, rows: readonly RevisionView[], index: number): ProductDocument | null {
  try {
    return documentBefore(doc, rows, index);
  } catch {
    return null;
  }
}

/** Who changed what when, and the way back to any of it. Going back is an edit like any other: it can be undone. */
export function HistorySheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data, session, edit, doc } = useDesk('data', 'session', 'edit', 'doc');
  const { id } = data.product;
  const [problem, setProblem] = useState<string | null>(null);
  const [shown, setShown] = useState<number | null>(null);
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
    const then = before(doc, rows!, index);
    if (!then) return setProblem(changedAgain);
    edit(`Restore to before “${row.label || `revision ${row.revision}`}”`, () => then);
    onClose();
  };
  return (
    <Sheet open={open} onClose={onClose} title="History" wide>
      {(problem ?? error) && <Alert className="mb-3">{problem ?? error!.message}</Alert>}
      {rows?.length === 0 && <p className="text-muted">Nothing was changed yet.</p>}
      <ol className="max-h-[60vh] overflow-auto">
        {rows?.map((row, index) => (
          <li key={row.revision} className="border-b border-hairline py-1.5 text-small">
            <HistoryLine
              row={row}
              shown={shown === row.revision}
              onShow={() => setShown(shown === row.revision ? null : row.revision)}
              onBack={() => goBack(index)}
            />
            {shown === row.revision && <Then row={row} then={before(doc, rows, index)} />}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

function HistoryLine({
  row,
  shown,
  onShow,
  onBack,
}: {
  row: RevisionView;
  shown: boolean;
  onShow: () => void;
  onBack: () => void;
}) {
  const name = row.label || 'Changed through the API';
  return (
    <div className="flex items-center gap-4">
      <span className="w-36 text-muted">{dayAndTime(row.createdAt)}</span>
      <span className="w-32 truncate">{row.by}</span>
      <button
        type="button"
        aria-expanded={shown}
        className="min-h-6 min-w-0 flex-1 truncate text-left hover:text-primary"
        onClick={onShow}
      >
        <span aria-hidden className="text-muted">
          {shown ? '▾ ' : '▸ '}
        </span>
        {name}
        {row.firstRevision < row.revision && (
          <span className="text-muted"> and {row.revision - row.firstRevision} before it</span>
        )}
      </button>
      <Button
        kind="quiet"
        aria-label={`Restore the product as it was before “${name}”, ${dayAndTime(row.createdAt)}`}
        onClick={onBack}
      >
        Restore to before this
      </Button>
    </div>
  );
}

/** What a revision changed, and the design as it was before it. */
function Then({ row, then }: { row: RevisionView; then: ProductDocument | null }) {
  const { color, doc } = useDesk('color', 'doc');
  const changes = historyChanges(row.patch, row.undo, doc.price.currency);
  return (
    <div className="flex items-start gap-4 py-2 pl-40">
      {then && (
        <figure className="shrink-0 text-tiny text-muted">
          <SmallProof
            areas={then.areas}
            color={color}
            label="The design as it was before this change"
            sidePx={240}
            className="size-30"
          />
          <figcaption className="mt-1">before it</figcaption>
        </figure>
      )}
      <table className="min-w-0 flex-1 table-fixed text-tiny">
        <TableHead columns={['What', 'Before', 'After']} />
        <tbody>
          {changes.slice(0, MAX_CHANGES).map((change) => (
            <tr key={change.path} className="align-top [&>td]:py-0.5 [&>td]:pr-3">
              <td>{change.name}</td>
              <td className="break-words">{cut(change.was)}</td>
              <td className="break-words">{cut(change.then)}</td>
            </tr>
          ))}
          {changes.length > MAX_CHANGES && (
            <tr>
              <td colSpan={3} className="text-muted">
                and {changes.length - MAX_CHANGES} more
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

const MAX_LETTERS = 160;
const cut = (text: string) => (text.length > MAX_LETTERS ? `${text.slice(0, MAX_LETTERS).toWellFormed()} …` : text);
