'use client';

import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { useDesk, type BenchListing } from './desk';

/** Where the product stands in each store. Rules and sync states follow what is saved: each saved change has them read anew. */
export function useListings(): { listings: readonly BenchListing[]; problem: string | null } {
  const { data } = useDesk('data');
  const { id } = data.product;
  const { data: listings, error } = useQuery(
    {
      queryKey: ['listing', id],
      queryFn: () => call<{ listings: BenchListing[] }>('GET', `/products/${id}/listings`).then((all) => all.listings),
      initialData: data.listings,
      meta: { topics: ['product', 'store'] },
    },
    queries(),
  );
  return { listings, problem: error ? `The stores could not be read: ${error.message}` : null };
}

/** Has the product's listings read anew, also what one of them differs in. */
export function useRereadListings(): () => void {
  const { data } = useDesk('data');
  const client = queries();
  const { id } = data.product;
  return useCallback(() => void client.invalidateQueries({ queryKey: ['listing', id] }), [client, id]);
}
