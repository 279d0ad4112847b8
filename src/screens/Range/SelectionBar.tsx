'use client';

import { useState } from 'react';
import { rangeParameters } from '@/core/range';
import { count } from '@/core/words/count';
import { Button } from '@/ui/Button';
import { cellOfKey } from './choose';
import type { RangeStore } from './load';
import { ManyMenu } from './ManyMenu';
import { SendMany, type Selected } from './SendMany';
import type { RangeState } from './use-range';
import type { Selection } from './use-selection';

/** What is meant by what is chosen, as the API takes it. */
export function selectedOf({ all, rows, cells }: Selection, { query }: RangeState): Selected | null {
  if (all) return { found: { query: rangeParameters(query.filter).toString() } };
  if (rows.size > 0) return { productIds: [...rows] };
  return cells.size > 0 ? { listings: [...cells].map(cellOfKey) } : null;
}

/** What can be done with what is chosen: whole products, or single listings. */
export function SelectionBar({
  range,
  stores,
  selection,
}: {
  range: RangeState;
  stores: readonly RangeStore[];
  selection: Selection;
}) {
  const [sends, setSends] = useState(false);
  const { all, rows, cells } = selection;
  const selected = selectedOf(selection, range);
  if (!selected) return null;
  const { total } = range.counts;
  const ofProducts = all || rows.size > 0;
  const n = all ? total : ofProducts ? rows.size : cells.size;
  const says = count(n, ofProducts ? 'product' : 'listing');
  return (
    <div
      role="group"
      aria-label={ofProducts ? 'Selected products' : 'Selected listings'}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-hairline bg-selection px-[18px] py-2 text-small"
    >
      <span role="status">{says} selected</span>
      {ofProducts && total > rows.size && (
        <Button kind="quiet" onClick={() => selection.setAll(!all)}>
          {all ? `Only the ${rows.size} ticked here` : `Select all ${total.toLocaleString('en')} found`}
        </Button>
      )}
      {stores.length > 0 && <Button onClick={() => setSends(true)}>Send …</Button>}
      <ManyMenu selected={selected} stores={stores} />
      <Button kind="quiet" onClick={selection.clear}>
        Clear the selection
      </Button>
      {sends && <SendMany title={`Send ${says}`} selected={selected} stores={stores} onClose={() => setSends(false)} />}
    </div>
  );
}
