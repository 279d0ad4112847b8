'use client';

import { Select } from '@/ui/Select';
import { useDesk } from './desk';

/** For whom a part chooses: for the product ('' as the id), or what one store has of its own; `own` says shortly what that is, null for nothing. */
export function ChoosingFor({
  storeId,
  own,
  onChange,
}: {
  storeId: string;
  own: (storeId: string) => string | null;
  onChange: (storeId: string) => void;
}) {
  const { data } = useDesk('data');
  if (data.stores.length === 0) return null;
  const told = (id: string) => {
    const says = own(id);
    return says === null ? '' : ` (${says})`;
  };
  return (
    <Select
      label="Choosing for"
      value={storeId}
      choices={[
        { value: '', name: 'all stores' },
        ...data.stores.map(({ id, name }) => ({ value: id, name: `${name}${told(id)}` })),
      ]}
      onChange={onChange}
    />
  );
}
