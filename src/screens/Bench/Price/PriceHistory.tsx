'use client';

import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EditCause } from '@/core/listing/shown-prices';
import { offerName } from '@/core/pricing/bundle';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { changedText, groupedChanges, type PriceChange } from './price-history-view';
import { dayAndTime } from '@/ui/when';

const ALL = '';
const EDIT_WORDS: { readonly [cause in EditCause]: string } = { typed: 'hand', rule: 'a price rule', file: 'a file' };

interface Page {
  readonly changes: PriceChange[];
  /** Where the next page goes on; null at the first change of all. */
  readonly before: number | null;
}

/** Who fixed which price, and when, down to the first; what one revision did to many variants alike stands on one line. */
export function PriceHistory() {
  const { data } = useDesk('data');
  const [store, setStore] = useState(ALL);
  const [only, setOnly] = useState(ALL);
  const asked = new URLSearchParams({ store, variant: only }).toString();
  const path = `/products/${data.product.id}/price-history?${asked}`;
  const {
    data: pages,
    error,
    hasNextPage,
    fetchNextPage,
  } = useInfiniteQuery(
    {
      queryKey: ['product', data.product.id, 'price-history', asked],
      queryFn: ({ pageParam }) => call<Page>('GET', pageParam === null ? path : `${path}&before=${pageParam}`),
      initialPageParam: null as number | null,
      getNextPageParam: ({ before }) => before,
    },
    queries(),
  );
  if (error) return <Alert>{error.message}</Alert>;
  if (!pages) return <p className="text-muted">Loading …</p>;
  const changes = pages.pages.flatMap((page) => page.changes);
  return (
    <>
      <Narrow store={store} onStore={setStore} only={only} onOnly={setOnly} />
      {changes.length === 0 ? (
        <p className="text-muted">
          No price was changed here yet. Each change is kept as long as the product, with who and when.
        </p>
      ) : (
        <ChangeTable changes={changes} />
      )}
      {hasNextPage && (
        <Button className="mt-2" onClick={() => void fetchNextPage()}>
          Older changes
        </Button>
      )}
    </>
  );
}

function Narrow({
  store,
  onStore,
  only,
  onOnly,
}: {
  store: string;
  onStore: (store: string) => void;
  only: string;
  onOnly: (variant: string) => void;
}) {
  const { data, variant } = useDesk('data', 'variant');
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 mb-2">
      <Select
        label="Where"
        value={store}
        choices={[
          { value: ALL, name: 'everywhere' },
          { value: 'base', name: 'all stores' },
          ...data.stores.map(({ id, name }) => ({ value: id, name })),
        ]}
        onChange={onStore}
      />
      {variant && (
        <Select
          label="For"
          value={only}
          choices={[
            { value: ALL, name: 'every variant' },
            { value: variant, name: variantName(data.blank, variant) },
          ]}
          onChange={onOnly}
        />
      )}
    </div>
  );
}

function ChangeTable({ changes }: { changes: readonly PriceChange[] }) {
  const { data, doc } = useDesk('data', 'doc');
  const storeOf = (storeId: string | null) => data.stores.find(({ id }) => id === storeId);
  const forText = (keys: readonly string[]) => {
    if (keys[0] === '*') return 'all';
    return keys.length === 1 ? offerName(data.blank, doc, keys[0]!) : `${keys.length} variants`;
  };
  return (
    <table className="w-full text-small bg-sheet border-y border-hairline">
      <TableHead
        className="border-b border-hairline"
        columns={[['When', 'py-1.5 pl-2'], 'Who', 'Where', 'For', 'Was', 'Now', 'By']}
      />
      <tbody>
        {groupedChanges(changes).map(({ change, keys }, i) => {
          const store = storeOf(change.storeId);
          const currency = store?.currency ?? doc.price.currency;
          return (
            <tr key={i} className="border-b border-hairline">
              <td className="py-1 pl-2 whitespace-nowrap">{dayAndTime(change.at)}</td>
              <td>{change.by}</td>
              <td>{change.storeId === null ? 'all stores' : (store?.name ?? 'a store that is gone')}</td>
              <td>{forText(keys)}</td>
              <td className="text-muted">{changedText(change.what, change.was, currency)}</td>
              <td>{changedText(change.what, change.now, currency)}</td>
              <td className="text-muted">{EDIT_WORDS[change.cause]}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
