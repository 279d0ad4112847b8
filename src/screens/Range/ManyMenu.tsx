'use client';

import { ChevronDown } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ActionMenu } from '@/ui/ActionMenu';
import { call } from '@/ui/api';
import { toast } from '@/ui/toast';
import type { RangeStore } from './load';
import { ManyForm, type FormKind } from './ManyForm';
import { SendMany, type Selected, type Visibility } from './SendMany';

/** Products that an address can carry to the page of sales. */
const MAX_FOR_SALE = 100;

type Opened = { readonly form: FormKind } | { readonly visibility: Visibility; readonly title: string } | null;

/** What else can be done with what is chosen: each leads to its plan, and nothing is done before it is begun there. */
export function ManyMenu({ selected, stores }: { selected: Selected; stores: readonly RangeStore[] }) {
  const router = useRouter();
  const [opened, setOpened] = useState<Opened>(null);
  const plan = async (kind: string, asked: object = {}) => {
    const { id } = await call<{ id: string }>('POST', '/range/changes', { kind, ...selected, ...asked });
    router.push(`/changes/${id}`);
  };
  const now = (kind: string) => () => void plan(kind).catch((error: Error) => void toast.error(error.message));
  const open = (form: FormKind) => () => setOpened({ form });
  const ofListings = 'listings' in selected;
  const shows = (visibility: Visibility, title: string) => ({
    name: `${title} …`,
    act: () => setOpened({ visibility, title }),
  });
  const sends =
    stores.length === 0
      ? []
      : [
          shows('live', 'Make live'),
          shows('draft', 'Take off sale'),
          { name: 'Look into the shops now …', act: now('check') },
        ];
  const forSale = 'productIds' in selected && selected.productIds.length <= MAX_FOR_SALE ? selected.productIds : null;
  const products = [
    { name: 'Price by a rule …', act: open('price-rule') },
    { name: 'Raise or lower prices …', act: open('raise') },
    { name: 'End prices otherwise …', act: open('ending') },
    ...(forSale
      ? [{ name: 'Plan a sale …', act: () => router.push(`/sales?${forSale.map((id) => `product=${id}`).join('&')}`) }]
      : []),
    { name: 'Add a tag …', act: open('tag-add') },
    { name: 'Remove a tag …', act: open('tag-remove') },
    { name: 'Duplicate onto a blank …', act: open('duplicate') },
    { name: 'Archive …', act: now('archive') },
    { name: 'Delete …', act: now('delete') },
  ];
  return (
    <>
      <ActionMenu
        className="inline-flex min-h-7 items-center gap-1 rounded-paper border border-edge bg-sheet px-2.5"
        anchor="bottom start"
        entries={ofListings ? sends : [...sends, ...products]}
      >
        Change <ChevronDown size={14} aria-hidden />
      </ActionMenu>
      {opened && 'form' in opened && <ManyForm kind={opened.form} plan={plan} onClose={() => setOpened(null)} />}
      {opened && 'visibility' in opened && (
        <SendMany {...opened} selected={selected} stores={stores} onClose={() => setOpened(null)} />
      )}
    </>
  );
}
