'use client';

import { useState, type ReactNode } from 'react';
import { toast } from '@/ui/toast';
import { Problem } from '@/ui/api';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';

interface Fault {
  readonly line: number;
  readonly column: string | null;
  readonly says: string;
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
export function CsvSheet<C extends { readonly line: number }>({
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
          <>
            <p className="text-small mb-2">
              {preview.changes.length === 0 ? 'Nothing would change.' : `${preview.changes.length} would change`}
              {preview.changes.length > 0 && (preview.same > 0 ? `, ${preview.same} stay as they are.` : '.')}
            </p>
            {preview.faults.length > 0 && (
              <ul
                className="border-l-[3px] border-stop pl-3 mb-3 text-small max-h-40 overflow-auto"
                aria-label="Errors"
              >
                {preview.faults.slice(0, 100).map((fault, i) => (
                  <li key={i}>
                    <span className="text-stop">line {fault.line}</span>
                    {fault.column ? `, ${fault.column}` : ''}: {fault.says}
                  </li>
                ))}
              </ul>
            )}
            {preview.changes.length > 0 && (
              <div className="max-h-72 overflow-auto border-y border-hairline">
                <table className="w-full text-small">
                  <thead className="text-muted text-left">
                    <tr>
                      {['Line', ...columns].map((head) => (
                        <th key={head} className="font-normal py-1 pr-4">
                          {head}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {preview.changes.slice(0, 500).map((change) => (
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
              <Button onClick={() => setPreview(null)}>Cancel</Button>
              <Button
                kind="primary"
                disabled={preview.changes.length === 0 || preview.faults.length > 0}
                onClick={() => {
                  apply(preview.changes);
                  toast(`${preview.changes.length} imported from the file; Ctrl+Z undoes it.`);
                  setPreview(null);
                }}
              >
                Import {preview.changes.length}
              </Button>
            </div>
            {preview.faults.length > 0 && (
              <p className="text-tiny text-muted text-right mt-1">
                Fix the errors in the file first; nothing is imported in part.
              </p>
            )}
          </>
        )}
      </Sheet>
    </>
  );
}
