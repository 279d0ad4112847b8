'use client';

import { useState } from 'react';
import { colorOption, type Option } from '@/core/catalog/blank';
import { keysWith, setChosen } from '@/core/document/choosing';
import { chosenColors } from '@/core/document/chosen';
import { orderedValues } from '@/core/variants/order';
import { skuCollisions, skusOf } from '@/core/variants/sku';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { Grid } from './Grid';
import { SavedColors } from './SavedColors';
import { StoreLimits } from './StoreLimits';
import { Troubles } from './Troubles';
import { usePoorColors } from './use-poor-colors';
import { gridView } from './view';
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
  const view = gridView(doc, blank, list, across);
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
        <span className="text-muted">
          {chosen} of {all.length} variants
        </span>
        <button
          type="button"
          className="text-small text-primary underline"
          onClick={() =>
            desk.edit(chosen >= all.length ? 'Drop all variants' : 'Choose all variants', (d) =>
              chosen >= all.length ? setChosen(d, Object.keys(d.variants), false) : setChosen(d, all, true),
            )
          }
        >
          {chosen >= all.length ? 'Drop all' : 'Choose all'}
        </button>
        <SavedColors />
        {poorChosen > 0 && (
          <span className="text-small text-caution">
            too little contrast on {poorChosen} of {own.length}
          </span>
        )}
        <span className="ml-auto flex items-baseline gap-4">
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
        <Grid view={view} poor={poor} />
      </div>
      <StoreLimits />
      <p className="text-tiny text-muted mt-3 max-w-3xl">
        In each cell: the base cost in {list.currency}, the tier of cost by letter, and how many the partner has. A name
        chooses its row or column; drag over cells, or Shift with arrows and Space, for a rectangle. Stores show colors
        and sizes in this order.
      </p>
      {codes && <CodesSheet open onClose={() => setCodesOpen(false)} />}
    </div>
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
