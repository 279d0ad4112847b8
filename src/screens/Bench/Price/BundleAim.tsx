'use client';

import { setBundleAim } from '@/core/document/bundles';
import type { Bundle } from '@/core/document/document';
import { ownEntry } from '@/core/own-entry';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import { readAim } from '@/core/pricing/price-sheet';
import type { Aim } from '@/core/pricing/solve';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { usePrices } from './priced';
import type { BenchStore } from '../load';
import type { Fixable } from './use-fixing';

const KINDS: readonly { readonly value: Fixable; readonly name: string }[] = [
  { value: 'price', name: 'price' },
  { value: 'profit', name: 'profit' },
  { value: 'margin', name: 'margin' },
  { value: 'markup', name: 'markup' },
];
const kindOf = (aim: Aim): Fixable => (aim.kind === 'retail' ? 'price' : aim.kind);

/** What begins a kind of aim until something is typed: a share that is usual, or a sum of the smallest note. */
const FIRST: Record<Fixable, string> = { price: '30', profit: '10', margin: '40', markup: '70' };

/** What a bundle's one price is to reach: in all stores, or in the one in view. */
export function BundleAim({ id, bundle, store }: { id: string; bundle: Bundle; store: BenchStore | null }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const { pricesAt } = usePrices();
  const own = store ? ownEntry(bundle.stores, store.id) : undefined;
  const aim = own ?? bundle.aim;
  const currency = own || !store ? pricesAt(store).world.outlet.currency : doc.price.currency;
  const set = (label: string, next: Aim | null) => edit(label, (d) => setBundleAim(d, id, store?.id ?? null, next));
  const kind = kindOf(aim);
  const isSum = aim.kind === 'retail' || aim.kind === 'profit';
  const typedIn = store ? store.currency : doc.price.currency;
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-2">
      <Select
        label="Reaches a"
        value={kind}
        choices={KINDS}
        onChange={(next) => set('Set what a bundle reaches', readAim(next, FIRST[next], typedIn))}
      />
      <EntryField
        label={`The ${kind} of ${bundle.name}`}
        showLabel={false}
        width="w-20"
        text={isSum ? formatAmount(money(aim.amountMinor, currency)) : formatPercent(aim.ppm)}
        read={(typed) => set(`Set ${kind} of a bundle`, readAim(kind, typed, typedIn))}
      />
      {isSum && <span className="text-muted">{currency}</span>}
      {store && !own && <span className="text-muted">as in all stores</span>}
      {own && (
        <Button kind="quiet" onClick={() => set('Follow all stores', null)}>
          Follow all stores
        </Button>
      )}
    </span>
  );
}
