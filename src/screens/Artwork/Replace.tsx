'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '@/ui/toast';
import type { Finding } from '@/core/findings/finding';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { count } from '@/core/words/count';
import { Sheet } from '@/ui/Sheet';
import { saidWithUndo } from '@/ui/with-undo';
import type { ArtworkItem } from './load';
import { jobDone } from '../job-done';
import { SEVERITY_WORDS } from '../severity';
import { isLight, sizeLine } from './view';

interface ReplacedIn {
  readonly productId: string;
  readonly title: string;
  readonly layers: number;
  readonly comes: readonly Finding[];
  readonly goes: readonly Finding[];
}

/** Puts the old artwork back in all products where nobody has changed it since. */
async function undoReplacement(jobId: string): Promise<void> {
  const undo = await call<{ jobId: string }>('POST', `/jobs/${jobId}/undo`);
  const { products, kept } = await jobDone<{ products: number; kept: number }>(undo.jobId);
  const stays = kept === 0 ? '' : ` ${kept === 1 ? '1 was' : `${kept} were`} changed since and stay as they are.`;
  toast(`Undone in ${count(products, 'product')}.${stays}`);
}

/** Puts another artwork in the place of one in all products, after showing what that changes. */
export function Replace({
  item,
  all,
  onClose,
  onDone,
}: {
  item: ArtworkItem;
  all: readonly ArtworkItem[];
  onClose: () => void;
  onDone: () => void;
}) {
  const others = all.filter((other) => other.id !== item.id && other.state === 'ready');
  const [by, setBy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { data: preview, error: unread } = useQuery(
    {
      queryKey: ['artwork', item.id, 'replacement', by],
      queryFn: () =>
        call<{ total: number; products: ReplacedIn[] }>('GET', `/artwork/${item.id}/replacement?with=${by}`),
      enabled: by !== null,
    },
    queries(),
  );
  const chosen = others.find((other) => other.id === by);
  const shown = preview?.products ?? null;
  const total = preview?.total ?? 0;
  const replace = async () => {
    setBusy(true);
    try {
      const { jobId } = await call<{ jobId: string }>('POST', `/artwork/${item.id}/replacement`, { with: by });
      const done = await jobDone<{ products: number }>(jobId);
      saidWithUndo(`Replaced in ${count(done.products, 'product')}.`, () => undoReplacement(jobId));
      onDone();
    } catch (e) {
      setError((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <Sheet open onClose={onClose} title={`Replace ${item.name} everywhere`} wide>
      {(error ?? unread) && <Alert className="mb-3">{error ?? unread!.message}</Alert>}
      <p className="text-small text-muted">
        Choose what comes in its place; it stands where the old one stood, as wide.
      </p>
      <Choices others={others} by={by} onChoose={setBy} />
      {chosen && (
        <p className="mt-3 text-small">
          {item.name} ({sizeLine(item)}) → {chosen.name} ({sizeLine(chosen)})
        </p>
      )}
      {shown && shown.length < total && (
        <p className="mt-3 text-small text-muted">
          The newest {shown.length} of {total} products, and what the checks say of them:
        </p>
      )}
      {shown && <WhatChanges products={shown} />}
      <div className="mt-4 flex gap-4">
        <Button kind="primary" disabled={!shown || shown.length === 0 || busy} onClick={() => void replace()}>
          {shown ? `Replace in ${count(total, 'product')}` : 'Replace'}
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </Sheet>
  );
}

function Choices({
  others,
  by,
  onChoose,
}: {
  others: readonly ArtworkItem[];
  by: string | null;
  onChoose: (id: string) => void;
}) {
  return (
    <ul className="mt-2 grid max-h-56 grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-2 overflow-auto p-0.5">
      {others.map((other) => (
        <li key={other.id}>
          <button
            type="button"
            aria-pressed={other.id === by}
            onClick={() => onChoose(other.id)}
            className={`w-full rounded-paper border p-1.5 text-left ${other.id === by ? 'border-ink bg-selection' : 'border-hairline'}`}
          >
            <img
              src={`/api/v1/artwork/${other.id}/thumbnail`}
              alt=""
              className={`mx-auto h-16 w-full object-contain ${isLight(other) ? 'bg-muted' : ''}`}
            />
            <span className="block truncate text-tiny">{other.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What the checks will say of each product, other than now. */
function WhatChanges({ products }: { products: readonly ReplacedIn[] }) {
  return (
    <ul className="mt-2 max-h-56 overflow-auto text-small" aria-label="What changes">
      {products.map((product) => (
        <li key={product.productId} className="border-t border-hairline py-1.5">
          {product.title}
          <span className="text-muted">
            , {count(product.layers, 'layer')}
            {product.comes.length + product.goes.length === 0 && '; the checks find the same'}
          </span>
          {product.comes.map((finding) => (
            <span key={finding.id} className="block">
              <span className={finding.severity === 'stop' ? 'text-stop' : 'text-caution'}>
                new, {SEVERITY_WORDS[finding.severity].toLocaleLowerCase('en')}:
              </span>{' '}
              {finding.says}
            </span>
          ))}
          {product.goes.map((finding) => (
            <span key={finding.id} className="block text-kept">
              no longer: {finding.says}
            </span>
          ))}
        </li>
      ))}
    </ul>
  );
}
