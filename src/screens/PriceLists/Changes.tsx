'use client';

import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import type { BlankChange } from '@/core/partner-file/price-changes';
import { ownEntry } from '@/core/own-entry';
import type { VariantChange } from './load';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { blankChangeText, variantChangeTexts } from './view';

/** Blanks that are shown before one asks for more. */
const AT_ONCE = 100;
const TONES = { stop: 'text-stop', kept: 'text-kept', muted: 'text-muted' } as const;

/** What changes of each blank; a blank opens to its variants. */
export function Changes({
  listId,
  blanks,
  names,
}: {
  listId: string;
  blanks: readonly BlankChange[];
  names: { readonly [blankId: string]: string };
}) {
  const [shown, setShown] = useState(AT_ONCE);
  if (blanks.length === 0) return <p className="text-small text-muted">Nothing: all is as it was.</p>;
  return (
    <>
      <ul className="border-t border-hairline text-small">
        {blanks.slice(0, shown).map((change) => (
          <Blank
            key={change.blankId}
            listId={listId}
            change={change}
            name={ownEntry(names, change.blankId) ?? change.blankId}
          />
        ))}
      </ul>
      {blanks.length > shown && (
        <Button kind="quiet" onClick={() => setShown(shown + 5 * AT_ONCE)}>
          Show more of {blanks.length.toLocaleString('en')} blanks
        </Button>
      )}
    </>
  );
}

function Blank({ listId, change, name }: { listId: string; change: BlankChange; name: string }) {
  const [open, setOpen] = useState(false);
  const [variants, setVariants] = useState<{ currency: string; changes: readonly VariantChange[] } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const toggle = () => {
    setOpen(!open);
    if (open || variants) return;
    call<{ currency: string; changes: VariantChange[] }>(
      'GET',
      `/price-lists/${listId}/changes?blank=${encodeURIComponent(change.blankId)}`,
    ).then(setVariants, (error: Error) => setProblem(error.message));
  };
  return (
    <li className="border-b border-hairline">
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-center gap-2 py-1 text-left hover:bg-sheet"
        onClick={toggle}
      >
        {open ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
        <span className="w-56 font-semibold">{name}</span>
        <span>{blankChangeText(change)}</span>
      </button>
      {problem && <Alert className="ml-6 mb-2">{problem}</Alert>}
      {open && variants && (
        <table className="mb-2 ml-6">
          <TableHead
            columns={[
              ['Variant', 'pr-8'],
              ['SKU', 'pr-8'],
              ['Until now', 'text-right'],
              [`New, ${variants.currency}`, 'pl-6 text-right'],
              ['Change', 'pl-6 text-right'],
              ['Also', 'pl-6'],
            ]}
          />
          <tbody>
            {variants.changes.map((variant) => {
              const texts = variantChangeTexts(variant, variants.currency);
              return (
                <tr key={variant.key} className="border-t border-hairline">
                  <td className="py-0.5 pr-8">{variant.name}</td>
                  <td className="py-0.5 pr-8 font-mono text-tiny">{variant.sku}</td>
                  <td className="text-right">{texts.before}</td>
                  <td className="pl-6 text-right">{texts.after}</td>
                  <td className={`pl-6 text-right ${TONES[texts.tone]}`}>{texts.by}</td>
                  <td className="pl-6">{texts.also}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </li>
  );
}
