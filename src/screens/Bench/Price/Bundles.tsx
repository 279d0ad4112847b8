'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { toast } from '@/ui/toast';
import { addBundle, removeBundle, setBundle, setBundleItem, setBundleNames } from '@/core/document/bundles';
import type { Bundle, BundleItem } from '@/core/document/document';
import { inOrder } from '@/core/order-key';
import type { Aim } from '@/core/pricing/solve';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import { BundleAim } from './BundleAim';
import { GoodField } from './GoodField';
import { Sums } from './BundleSums';
import type { BundleGood, BundlesView, BundleView } from './bundles-view';
import { newId } from '@/ui/ids';

/** Short: it ends the SKUs of its bundle. */
const bundleId = () => newId(6);
/** Bundles of a product, and products of a bundle beside it, that a document holds. */
const MAX = { bundles: 6, items: 6 };

/** What bundles come to in a store, read anew whenever the product is saved. */
function useBundles(store: BenchStore | null): BundlesView | null {
  const { data } = useDesk('data');
  const { id } = data.product;
  const { data: told, error } = useQuery(
    {
      queryKey: ['product', id, 'bundles', store?.id ?? ''],
      queryFn: () => call<BundlesView>('GET', `/products/${id}/bundles?store=${store?.id ?? ''}`),
      placeholderData: keepPreviousData,
    },
    queries(),
  );
  useEffect(() => {
    if (error) toast.error(`Bundles could not be read: ${error.message}`);
  }, [error]);
  return told ?? null;
}

/** The product with others at one price: what is in each bundle, what its price is to reach, and what is left after the real shipping of its parcels. */
export function Bundles({ store }: { store: BenchStore | null }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const told = useBundles(store);
  const [added, setAdded] = useState<readonly BundleGood[]>([]);
  const goods = [...added, ...(told?.goods ?? [])];
  const bundles = inOrder(doc.bundles?.entries ?? {});
  const remember = (good: BundleGood) => setAdded((all) => [...all, good]);
  const begin = (good: BundleGood) => {
    const { aim } = doc.price.base;
    const item = { productId: good.productId, variantKey: good.variants[0]!.key, quantity: 1 };
    const share: Aim = aim.kind === 'margin' || aim.kind === 'markup' ? aim : { kind: 'margin', ppm: 400_000 };
    const bundle = { name: `With ${good.title}`.slice(0, 60), aim: share, item };
    const ids = { bundle: bundleId(), item: bundleId() };
    remember(good);
    edit(`Sell with ${good.title}`, (d) => addBundle(d, ids, bundle));
  };
  return (
    <div className="text-small">
      <p className="text-muted mb-3 max-w-3xl">
        A bundle is this product with others, at one price. Stores show it as one more choice, or beside the sizes where
        they take no further choice. What comes from one partner and country travels in one parcel.
      </p>
      {doc.bundles && <Names />}
      {bundles.map(([id, bundle]) => (
        <BundleBlock
          key={id}
          id={id}
          bundle={bundle}
          told={told?.bundles.find((one) => one.id === id) ?? null}
          goods={goods}
          store={store}
          onGood={remember}
        />
      ))}
      <div className="border-t border-hairline pt-3">
        {bundles.length < MAX.bundles ? (
          <GoodField label="Sell it together with" onChoose={begin} />
        ) : (
          <p className="text-muted">A product has up to {MAX.bundles} bundles.</p>
        )}
      </div>
    </div>
  );
}

const notEmpty = (typed: string): string => {
  const text = typed.trim();
  if (text === '') throw new Error('Buyers read this; it cannot be empty.');
  if (text.length > 60) throw new Error('Take up to 60 characters.');
  return text;
};

function Names() {
  const { doc, edit } = useDesk('doc', 'edit');
  const { option, alone } = doc.bundles!;
  return (
    <p className="flex flex-wrap gap-x-6 gap-y-2 mb-3">
      <EntryField
        label="Stores call the choice"
        text={option}
        width="w-40"
        align="left"
        read={(typed) => {
          const name = notEmpty(typed);
          edit('Name the choice of bundles', (d) => setBundleNames(d, { option: name }));
        }}
      />
      <EntryField
        label="and the product without anything"
        text={alone}
        width="w-40"
        align="left"
        read={(typed) => {
          const name = notEmpty(typed);
          edit('Name the product without a bundle', (d) => setBundleNames(d, { alone: name }));
        }}
      />
    </p>
  );
}

interface BlockProps {
  readonly id: string;
  readonly bundle: Bundle;
  readonly told: BundleView | null;
  readonly goods: readonly BundleGood[];
  readonly store: BenchStore | null;
  readonly onGood: (good: BundleGood) => void;
}

function BundleBlock({ id, bundle, told, goods, store, onGood }: BlockProps) {
  const { edit } = useDesk('edit');
  const items = inOrder(bundle.items);
  const set = (itemId: string, label: string, item: Omit<BundleItem, 'order'> | null) =>
    edit(label, (d) => setBundleItem(d, id, itemId, item));
  return (
    <section aria-label={`Bundle ${bundle.name}`} className="border-t border-hairline py-3">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <EntryField
          label="Buyers read"
          text={bundle.name}
          width="w-64"
          align="left"
          read={(typed) => {
            const name = notEmpty(typed);
            edit('Name bundle', (d) => setBundle(d, id, { name }));
          }}
        />
        <BundleAim id={id} bundle={bundle} store={store} />
      </div>
      <ul className="mt-2">
        {items.map(([itemId, item]) => (
          <ItemLine
            key={itemId}
            item={item}
            good={goods.find(({ productId }) => productId === item.productId)}
            onChange={(label, next) => set(itemId, label, next)}
          />
        ))}
      </ul>
      <p className="flex flex-wrap items-baseline gap-x-6">
        {items.length < MAX.items && (
          <GoodField
            label="and"
            onChoose={(good) => {
              onGood(good);
              const item = { productId: good.productId, variantKey: good.variants[0]!.key, quantity: 1 };
              set(bundleId(), `Put ${good.title} into a bundle`, item);
            }}
          />
        )}
        <Button kind="quiet" className="ml-auto" onClick={() => edit('Delete bundle', (d) => removeBundle(d, id))}>
          Delete bundle
        </Button>
      </p>
      {told?.problem && <Alert className="mt-2">{told.problem}</Alert>}
      {told?.sums && <Sums sums={told.sums} />}
    </section>
  );
}

interface ItemProps {
  readonly item: BundleItem;
  readonly good: BundleGood | undefined;
  readonly onChange: (label: string, item: Omit<BundleItem, 'order'> | null) => void;
}

function ItemLine({ item, good, onChange }: ItemProps) {
  const { productId, variantKey, quantity } = item;
  const title = good?.title ?? 'A product that is gone';
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 py-0.5">
      <EntryField
        label={`How many of ${title}`}
        showLabel={false}
        text={String(quantity)}
        width="w-8"
        read={(typed) => {
          const count = Number(typed);
          if (!/^\d{1,2}$/.test(typed.trim()) || count < 1 || count > 20) throw new Error('From 1 to 20.');
          onChange('Set quantity in a bundle', { productId, variantKey, quantity: count });
        }}
      />
      <span className={good ? '' : 'text-stop'}>× {title}</span>
      {good && good.variants.length > 1 && (
        <Select
          label="Variant"
          value={variantKey}
          choices={good.variants.map(({ key, name }) => ({ value: key, name }))}
          onChange={(key) => onChange('Set variant in a bundle', { productId, variantKey: key, quantity })}
        />
      )}
      <Button kind="quiet" onClick={() => onChange(`Remove ${title} from a bundle`, null)}>
        Remove
      </Button>
    </li>
  );
}
