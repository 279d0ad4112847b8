'use client';

import { useState, type ReactNode } from 'react';
import { toast } from '@/ui/toast';
import { Problem } from '@/ui/api';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { Sheet } from '@/ui/Sheet';
import { TableHead } from '@/ui/TableHead';
import { useDesk } from './desk';

/** Errors and changes of a file that are shown. */
const MAX_FAULTS = 100;
const MAX_LINES = 500;

interface Fault {
  readonly line: number;
  readonly column: string | null;
  readonly says: string;
}
/** A change that a line of the file makes. */
interface Line {
  readonly line: number;
}
interface Preview<C> {
  readonly changes: readonly C[];
  readonly faults: readonly Fault[];
  readonly same: number;
}

/**
 * A product's values as a file: taken out, changed in a spreadsheet, brought back. What would change is shown before it is; faults are told by line.
 * `path` is the API's below the product; `apply` puts the changes into the document, so that they can be undone.
 */
export function CsvSheet<C extends Line>({
  what,
  path,
  columns,
  rowOf,
  apply,
}: {
  what: string;
  path: string;
  columns: readonly string[];
  rowOf: (change: C) => readonly ReactNode[];
  apply: (changes: readonly C[]) => void;
}) {
  const { data, session } = useDesk('data', 'session');
  const [preview, setPreview] = useState<Preview<C> | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const url = `/api/v1/products/${data.product.id}/${path}`;
  const read = async (file: File) => {
    setProblem(null);
    try {
      await session.flush();
      const answer = await fetch(url, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: file });
      const json = (await answer.json()) as Preview<C> & { detail?: string; code?: string };
      if (!answer.ok) throw new Problem(answer.status, json.code ?? '', json.detail ?? 'The file was rejected.', {});
      setPreview(json);
    } catch (error) {
      setPreview({ changes: [], faults: [], same: 0 });
      setProblem((error as Error).message);
    }
  };
  return (
    <>
      <a
        href={url}
        download
        className="inline-flex min-h-6 items-center text-primary underline underline-offset-2 text-small"
      >
        {what} as CSV
      </a>
      <FileButton disabled={false} accept=".csv,text/csv" label={`${what} from CSV`} onFile={(file) => void read(file)}>
        From CSV …
      </FileButton>
      <Sheet open={preview !== null} onClose={() => setPreview(null)} title={`${what} from a file`} wide>
        {problem && <Alert>{problem}</Alert>}
        {preview && !problem && (
          <Read
            preview={preview}
            columns={columns}
            rowOf={rowOf}
            onCancel={() => setPreview(null)}
            onImport={() => {
              apply(preview.changes);
              toast(`${preview.changes.length} imported from the file; Ctrl+Z undoes it.`);
              setPreview(null);
            }}
          />
        )}
      </Sheet>
    </>
  );
}

/** What was read from the file: what would change, and its errors. */
function Read<C extends Line>({
  preview: { changes, faults, same },
  columns,
  rowOf,
  onCancel,
  onImport,
}: {
  preview: Preview<C>;
  columns: readonly string[];
  rowOf: (change: C) => readonly ReactNode[];
  onCancel: () => void;
  onImport: () => void;
}) {
  const stay = same > 0 ? `, ${same} stay as they are.` : '.';
  return (
    <>
      <p className="text-small mb-2">
        {changes.length === 0 ? 'Nothing would change.' : `${changes.length} would change${stay}`}
      </p>
      {faults.length > 0 && (
        <ul className="border-l-[3px] border-stop pl-3 mb-3 text-small max-h-40 overflow-auto" aria-label="Errors">
          {faults.slice(0, MAX_FAULTS).map((fault, i) => (
            <li key={i}>
              <span className="text-stop">line {fault.line}</span>
              {fault.column ? `, ${fault.column}` : ''}: {fault.says}
            </li>
          ))}
        </ul>
      )}
      {changes.length > 0 && (
        <div className="max-h-72 overflow-auto border-y border-hairline">
          <table className="w-full text-small">
            <TableHead columns={['Line', ...columns].map((heading) => [heading, 'py-1 pr-4'] as const)} />
            <tbody>
              {changes.slice(0, MAX_LINES).map((change) => (
                <tr key={change.line} className="border-t border-hairline">
                  <td className="py-0.5 pr-4 text-muted">{change.line}</td>
                  {rowOf(change).map((cell, i) => (
                    <td key={i} className="pr-4">
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="flex justify-end gap-3 mt-4">
        <Button onClick={onCancel}>Cancel</Button>
        <Button kind="primary" disabled={changes.length === 0 || faults.length > 0} onClick={onImport}>
          Import {changes.length}
        </Button>
      </div>
      {faults.length > 0 && (
        <p className="text-tiny text-muted text-right mt-1">
          Fix the errors in the file first; nothing is imported in part.
        </p>
      )}
    </>
  );
}
