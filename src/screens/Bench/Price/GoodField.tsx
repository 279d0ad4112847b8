'use client';

import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { useRested } from '@/ui/use-rested';
import { useDesk } from '../desk';
import type { BundleGood } from './bundles-view';

/** Asked for once nobody typed for so long. */
const PAUSE_MS = 200;

/** Another product of the seller's, found by what its title holds. */
export function GoodField({ label, onChoose }: { label: string; onChoose: (good: BundleGood) => void }) {
  const { data } = useDesk('data');
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState(false);
  const title = useRested(typed, PAUSE_MS).slice(0, 80);
  const { data: found = null, error } = useQuery(
    {
      queryKey: ['product', data.product.id, 'goods', title],
      queryFn: () =>
        call<{ goods: BundleGood[] }>(
          'GET',
          `/products/${data.product.id}/bundles/goods?${new URLSearchParams({ title }).toString()}`,
        ).then(({ goods }) => goods),
      enabled: asked,
      placeholderData: keepPreviousData,
    },
    queries(),
  );
  return (
    <span className="inline-flex items-baseline gap-1.5">
      <span className="text-muted">{label}</span>
      <Combobox<BundleGood | null>
        value={null}
        onChange={(good) => good && onChoose(good)}
        onClose={() => setTyped('')}
        immediate
      >
        <ComboboxInput
          aria-label={label}
          placeholder="a product, by its title"
          className="w-64 min-h-6 bg-transparent border-b border-hairline hover:border-muted focus:border-primary px-0.5"
          displayValue={() => typed}
          onFocus={() => setAsked(true)}
          onChange={(e) => setTyped(e.target.value)}
        />
        <ComboboxOptions
          anchor="bottom start"
          className="z-50 max-h-80 min-w-64 overflow-auto rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
        >
          {found === null && <p className="px-3 py-1 text-muted">{error ? error.message : 'Reading …'}</p>}
          {found?.length === 0 && (
            <p className="px-3 py-1 text-muted">
              {typed
                ? 'No other product with chosen variants has this in its title.'
                : 'There is no other product yet.'}
            </p>
          )}
          {(found ?? []).map((good) => (
            <ComboboxOption
              key={good.productId}
              value={good}
              className="px-3 py-1 data-[focus]:bg-selection cursor-pointer"
            >
              {good.title}
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </Combobox>
    </span>
  );
}
