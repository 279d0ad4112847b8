'use client';

import { useState } from 'react';
import { count } from '@/core/words/count';
import { Button } from '@/ui/Button';
import { cellOfKey } from './choose';
import type { RangeData } from './load';
import { SendMany } from './SendMany';

/** What can be done with single listings that are ticked in the table. */
export function CellBar({
  cells,
  stores,
  onClear,
}: {
  cells: ReadonlySet<string>;
  stores: RangeData['stores'];
  onClear: () => void;
}) {
  const [sends, setSends] = useState(false);
  const title = `Send ${count(cells.size, 'listing')}`;
  return (
    <div
      role="group"
      aria-label="Selected listings"
      className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 bg-selection px-3 py-2 text-small"
    >
      <span role="status">{count(cells.size, 'listing')} selected</span>
      <Button onClick={() => setSends(true)}>Send …</Button>
      <Button kind="quiet" onClick={onClear}>
        Clear the selection
      </Button>
      {sends && (
        <SendMany
          title={title}
          selected={{ listings: [...cells].map(cellOfKey) }}
          stores={stores}
          onClose={() => setSends(false)}
        />
      )}
    </div>
  );
}
