'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { useAct } from '@/ui/use-act';
import { VISIBILITY_WORDS } from '../Send/view';
import type { RangeStore } from './load';

/** What is selected, as the API takes it; stores are asked for unless it names them itself. */
export type Selected =
  | { readonly productIds: readonly string[] }
  | { readonly found: { readonly query: string } }
  | { readonly listings: readonly { readonly productId: string; readonly storeId: string }[] };

export type Visibility = keyof typeof VISIBILITY_WORDS;

/** Asks to which stores a selection goes and how it is to stand there, and leads to the plan. */
export function SendMany({
  title,
  selected,
  stores,
  visibility: as = 'as-is',
  onClose,
}: {
  title: string;
  selected: Selected;
  stores: readonly RangeStore[];
  /** How they are to stand there, where it is said already. */
  visibility?: Visibility;
  onClose: () => void;
}) {
  const router = useRouter();
  const { act, busy, problem } = useAct();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(stores.map(({ id }) => id)));
  const [visibility, setVisibility] = useState<Visibility>(as);
  const asksStores = !('listings' in selected);
  const turn = (id: string, on: boolean) =>
    setChosen((all) => new Set(on ? [...all, id] : [...all].filter((one) => one !== id)));
  const plan = () =>
    act(async () => {
      const body = { ...selected, ...(asksStores ? { storeIds: [...chosen] } : {}), visibility };
      const { id } = await call<{ id: string }>('POST', '/sends', body);
      router.push(`/sends/${id}`);
    });
  return (
    <Sheet open onClose={onClose} title={title}>
      <div className="text-small">
        {asksStores && (
          <fieldset className="mb-4">
            <legend className="mb-1 text-muted">To these stores</legend>
            {stores.map(({ id, name, channel }) => (
              <Check key={id} on={chosen.has(id)} onChange={(on) => turn(id, on)}>
                {name} <span className="text-muted">{channel}</span>
              </Check>
            ))}
          </fieldset>
        )}
        <Select
          label="They stand there"
          value={visibility}
          choices={Object.entries(VISIBILITY_WORDS).map(([value, name]) => ({ value: value as Visibility, name }))}
          onChange={setVisibility}
        />
        <p className="my-3 text-muted">What would be sent is shown next. Nothing is sent before you say so.</p>
        {problem && <Alert className="mb-3">{problem}</Alert>}
        <Button kind="primary" disabled={busy || (asksStores && chosen.size === 0)} onClick={() => void plan()}>
          {busy ? 'Looking …' : 'See what would be sent'}
        </Button>
      </div>
    </Sheet>
  );
}
