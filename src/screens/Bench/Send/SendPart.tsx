'use client';

import Link from 'next/link';
import { listingName } from '@/core/variants/listing-colors';
import { Alert } from '@/ui/Alert';
import { useDesk } from '../desk';
import { useListings } from '../use-listings';
import { StoreListing } from './StoreListing';

/** Where the product stands in each store: its rules, sending, progress, what the shop said. */
export function SendPart() {
  const { data, doc } = useDesk('data', 'doc');
  const { listings, problem } = useListings();
  return (
    <div className="px-7 py-5 max-w-4xl">
      <h2 className="font-display text-[20px] font-semibold mb-3">Stores</h2>
      {data.stores.length === 0 && (
        <p className="text-muted">
          No store is connected yet.{' '}
          <Link href="/stores" className="text-primary underline">
            Connect one
          </Link>
          , then come back; your work stays here.
        </p>
      )}
      {problem && <Alert className="mb-3">{problem}</Alert>}
      {data.stores.map((store) => {
        const own = listings.filter((l) => l.storeId === store.id);
        return own.map((listing) => (
          <StoreListing
            key={`${store.id} ${listing.number}`}
            listing={listing}
            name={store.name}
            channel={store.channelName}
            part={listingName(doc, data.blank, store.id, listing.number)}
          />
        ));
      })}
    </div>
  );
}
