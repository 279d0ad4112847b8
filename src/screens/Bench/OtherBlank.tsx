'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { count } from '@/core/words/count';
import { ChooseBlank } from '../ChooseBlank';
import { useDesk } from './desk';

interface Preview {
  readonly blank: { readonly id: string; readonly name: string; readonly partner: string };
  readonly areas: readonly { readonly from: string; readonly to: string | null }[];
  readonly variantCount: number;
  readonly notes: readonly string[];
}

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
