'use client';

import { useState } from 'react';
import { colorOption, type Option } from '@/core/catalog/blank';
import { keysWith, setChosen } from '@/core/document/choosing';
import { chosenColors } from '@/core/document/chosen';
import { leftOutOf, offerAll, setOffered } from '@/core/document/offered';
import { orderedValues } from '@/core/variants/order';
import { skuCollisions, skusOf } from '@/core/variants/sku';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { ChoosingFor } from '../ChoosingFor';
import { useDesk } from '../desk';
import { Grid } from './Grid';
import { Listings } from './Listings';
import { SavedColors } from './SavedColors';
import { StoreLimits } from './StoreLimits';
import { Troubles } from './Troubles';
import { usePoorColors } from './use-poor-colors';
import type { Choosing } from './use-grid';
import { gridView, storeGridView } from './view';
import { later } from '@/ui/later';

const CodesSheet = later(() => import('./CodesSheet').then((m) => m.CodesSheet));

/** Which variants are sold, in which order; what stores can hold; SKUs and GTINs. */
export function VariantsPart() {
  const desk = useDesk('data', 'doc', 'edit');
  const { data, doc } = desk;
  const { blank, list } = data;
  const color = colorOption(blank);
  const [across, setAcross] = useState<{ readonly [option: string]: string }>({});
  const [codes, setCodesOpen] = useState(false);
  const [storeId, setStoreId] = useState('');
  const store = data.stores.find(({ id }) => id === storeId) ?? null;
  const whole = gridView(doc, blank, list, across);
  const view = store ? storeGridView(whole, doc, store.id) : whole;
  const all = keysWith(blank, {});
  const chosen = Object.keys(doc.variants).length;
  const poor = usePoorColors();
  const own = chosenColors(doc, blank).filter((code) => code !== null);
  const poorChosen = own.filter((code) => poor.has(code)).length;
  const collisions = skuCollisions(skusOf(data.product.id, doc, blank, data.sentSkus)).length;
  return (
    <div className="px-7 py-5">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 mb-3">
        <h2 className="font-display text-[20px] font-semibold">{color ? 'Colors & sizes' : 'Sizes'}</h2>
        {store ? <OfferedThere store={store} /> : <AllChosen all={all} />}
        {!store && <SavedColors />}
        {poorChosen > 0 && (
          <span className="text-small text-caution">
            too little contrast on {poorChosen} of {own.length}
          </span>
        )}
        <span className="ml-auto flex items-baseline gap-4">
          <ChoosingFor
            storeId={store?.id ?? ''}
            own={(id) => leftOutWords(leftOutOf(doc, id).length)}
            onChange={setStoreId}
          />
          <Select
            label="Out of stock"
            value={doc.whenOut ?? 'shown'}
            choices={[
              { value: 'shown', name: 'shown as sold out' },
              { value: 'hidden', name: 'hidden' },
            ]}
            onChange={(whenOut) => desk.edit('Set what is shown', (d) => ({ ...d, whenOut }))}
          />
          <Button onClick={() => setCodesOpen(true)} disabled={chosen === 0}>
            SKUs and GTINs …{collisions > 0 ? ` (${collisions} shared)` : ''}
          </Button>
        </span>
      </div>
      <Troubles />
      <FurtherOptions tabs={view.tabs} across={across} onAcross={setAcross} />
      <div data-wide className="overflow-x-auto">
        <Grid view={view} poor={poor} choosing={store ? choosingIn(store.id) : FOR_ALL} />
      </div>
      <StoreLimits />
      {store && <Listings store={store} />}
      <p className="text-tiny text-muted mt-3 max-w-3xl">
        In each cell: the base cost in {list.currency}, the tier of cost by letter, and how many the partner has. A name
        chooses its row or column; drag over cells, or Shift with arrows and Space, for a rectangle. Stores show colors
        and sizes in this order.
      </p>
      {codes && <CodesSheet open onClose={() => setCodesOpen(false)} />}
    </div>
  );
}

const leftOutWords = (n: number): string | null => (n > 0 ? `${n} left out` : null);

const FOR_ALL: Choosing = { words: ['Choose', 'Drop'], choose: setChosen };
const choosingIn = (storeId: string): Choosing => ({
  words: ['Sell', 'Leave out'],
  choose: (doc, keys, on) => setOffered(doc, storeId, keys, on),
});

/** How many the product has, and all of them at once. */
function AllChosen({ all }: { all: readonly string[] }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const chosen = Object.keys(doc.variants).length;
  const whole = chosen >= all.length;
  return (
    <>
      <span className="text-muted">
        {chosen} of {all.length} variants
      </span>
      <Button
        kind="quiet"
        onClick={() =>
          edit(whole ? 'Drop all variants' : 'Choose all variants', (d) =>
            whole ? setChosen(d, Object.keys(d.variants), false) : setChosen(d, all, true),
          )
        }
      >
        {whole ? 'Drop all' : 'Choose all'}
      </Button>
    </>
  );
}

/** How many of the product’s a store sells, and the way back to all. */
function OfferedThere({ store }: { store: { readonly id: string; readonly name: string } }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const chosen = Object.keys(doc.variants).length;
  const without = leftOutOf(doc, store.id).length;
  return (
    <>
      <span className="text-muted" data-testid="offered-there">
        {store.name} sells {chosen - without} of {chosen}
      </span>
      {without > 0 && (
        <Button kind="quiet" onClick={() => edit(`Sell all in ${store.name}`, (d) => offerAll(d, store.id))}>
          Sell all again
        </Button>
      )}
    </>
  );
}

/** Options beyond the two of the grid: one value of each is in view at a time. */
function FurtherOptions({
  tabs,
  across,
  onAcross,
}: {
  tabs: readonly Option[];
  across: { readonly [option: string]: string };
  onAcross: (across: { readonly [option: string]: string }) => void;
}) {
  const { doc } = useDesk('doc');
  return (
    <>
      {tabs.map((tab) => (
        <div key={tab.code} role="tablist" aria-label={tab.name} className="flex gap-4 mb-2 text-small">
          <span className="text-muted">{tab.name}</span>
          {orderedValues(doc, tab).map((value, i) => {
            const on = (ownEntry(across, tab.code) ?? orderedValues(doc, tab)[0]!.code) === value.code;
            return (
              <button
                key={value.code}
                type="button"
                role="tab"
                aria-selected={on}
                tabIndex={on || i === 0 ? 0 : -1}
                className={on ? 'font-semibold border-b border-primary' : 'text-muted hover:text-ink'}
                onClick={() => onAcross({ ...across, [tab.code]: value.code })}
              >
                {value.name}
              </button>
            );
          })}
        </div>
      ))}
    </>
  );
}
