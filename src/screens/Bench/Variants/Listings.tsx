'use client';

import { colorOption } from '@/core/catalog/blank';
import { wordsFor } from '@/core/document/document';
import { joinListings, MAX_LISTINGS, moveToListing, titleListing } from '@/core/document/split';
import { splitInHalves } from '@/core/rules/fix-variants';
import { colorListings, type ColorListing } from '@/core/variants/listing-colors';
import { ownEntry } from '@/core/own-entry';
import { count } from '@/core/words/count';
import { ActionMenu } from '@/ui/ActionMenu';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';

interface Place {
  readonly id: string;
  readonly name: string;
}

/** In how many listings a store sells the product: one, or several, each with a group of its colors and its title. */
export function Listings({ store }: { store: Pick<BenchStore, 'id' | 'name' | 'demands' | 'shopName'> }) {
  const { data, doc, edit } = useDesk('data', 'doc', 'edit');
  const { blank } = data;
  const listings = colorListings(doc, blank, store.id);
  const colors = listings.flatMap((one) => one.colors);
  if (!colorOption(blank) || colors.length < 2) return null;
  if (!ownEntry(doc.split, store.id))
    return (
      <p className="mt-4">
        <Button
          kind="quiet"
          onClick={() =>
            edit(`Sell in two listings in ${store.name}`, (d) =>
              splitInHalves({ doc: d, blank, storeId: store.id, ...store }),
            )
          }
        >
          Sell in several listings, by color
        </Button>
      </p>
    );
  return (
    <section aria-label={`Listings in ${store.name}`} className="mt-5 max-w-3xl border-t border-hairline pt-3">
      <div className="flex items-baseline gap-5">
        <h3 className="font-display text-[17px]">
          {count(listings.length, 'listing')} in {store.name}
        </h3>
        <Button
          kind="quiet"
          onClick={() => edit(`Sell in one listing in ${store.name}`, (d) => joinListings(d, store.id))}
        >
          Sell in one again
        </Button>
      </div>
      <ul>
        {listings.map((one) => (
          <OneListing key={one.number} store={store} one={one} all={listings} />
        ))}
      </ul>
    </section>
  );
}

/** One of them: its title, and its colors, each of which can be moved to another. */
function OneListing({ store, one, all }: { store: Place; one: ColorListing; all: readonly ColorListing[] }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const title = ownEntry(ownEntry(doc.split, store.id)?.listings, String(one.number))?.title;
  const others = all.filter(({ number }) => number !== one.number).map(({ number }) => number);
  const next = Math.max(...all.map(({ number }) => number)) + 1;
  const entriesFor = (code: string) => {
    const move = (number: number) => () =>
      edit(`Move a color to listing ${number}`, (d) => moveToListing(d, store.id, code, number));
    return [
      ...others.map((number) => ({ name: `Move to listing ${number}`, act: move(number) })),
      ...(one.colors.length > 1 && next <= MAX_LISTINGS ? [{ name: 'Move to a new listing', act: move(next) }] : []),
    ];
  };
  return (
    <li className="border-b border-hairline py-2.5">
      <div className="flex items-baseline gap-4">
        <span className="w-36 shrink-0 text-small">
          <span className="font-semibold">Listing {one.number}</span>{' '}
          <span className="text-muted">{count(one.variants, 'variant')}</span>
        </span>
        <EntryField
          label={`Title of listing ${one.number}`}
          showLabel={false}
          align="left"
          width="w-full"
          className="flex-1"
          text={title ?? wordsFor(doc, store.id).title}
          read={(typed) => edit(`Title of listing ${one.number}`, (d) => titleListing(d, store.id, one.number, typed))}
        />
        {title !== undefined && (
          <Button
            kind="quiet"
            className="text-tiny"
            aria-label={`Give listing ${one.number} the product’s title`}
            onClick={() => edit(`Title of listing ${one.number}`, (d) => titleListing(d, store.id, one.number, ''))}
          >
            follow the product
          </Button>
        )}
      </div>
      <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1 pl-40">
        {one.colors.map(({ code, name, hex }) => (
          <ActionMenu
            key={code}
            label={`Move ${name}`}
            className="inline-flex min-h-6 items-center gap-1.5 text-small hover:text-primary"
            anchor="bottom start"
            entries={entriesFor(code)}
          >
            <span
              aria-hidden
              className="size-3 rounded-full border border-edge"
              style={hex === null ? undefined : { background: hex }}
            />
            {name}
          </ActionMenu>
        ))}
      </div>
    </li>
  );
}
