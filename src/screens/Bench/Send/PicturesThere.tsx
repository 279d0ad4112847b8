import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { useDesk } from '../desk';

/** Pictures that are shown: what a form does to them is seen on a few. */
const SHOWN = 6;
const SIDE_PX = 320;

/** Its pictures as a store gets them: squared by margin or crop, the first on white, as the channel wants them and the store's settings say. */
export function PicturesThere({ storeId, name }: { storeId: string; name: string }) {
  const { data } = useDesk('data');
  const [open, setOpen] = useState(false);
  const path = `/products/${data.product.id}/pictures`;
  const told = useQuery(
    {
      queryKey: ['pictures-there', data.product.id, storeId],
      queryFn: () =>
        call<{ revision: number; pictures: { id: string; alt: string }[] }>('GET', `${path}?store=${storeId}`),
      enabled: open,
      meta: { topics: ['product', 'store'] },
    },
    queries(),
  );
  const pictures = told.data?.pictures ?? [];
  const { demands } = data.stores.find(({ id }) => id === storeId)!;
  // A picture that would look otherwise has another address: it is not taken from what the browser holds.
  const at = `${told.data?.revision}-${demands.pictureFormat.cropped ?? false}`;
  return (
    <details className="mt-3" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="text-small font-medium cursor-pointer">Pictures as {name} gets them</summary>
      {told.data && pictures.length === 0 && <p className="text-small text-muted mt-2">There are none yet.</p>}
      <ol className="flex flex-wrap gap-3 mt-2">
        {pictures.slice(0, SHOWN).map(({ id, alt }) => (
          <li key={id}>
            <img
              src={`/api/v1${path}/file?${new URLSearchParams({ id, store: storeId, side: String(SIDE_PX), at })}`}
              alt={alt}
              title={alt}
              loading="lazy"
              className="h-28 w-auto min-w-16 border border-hairline"
            />
          </li>
        ))}
      </ol>
      {pictures.length > SHOWN && (
        <p className="text-small text-muted mt-1.5">
          and {pictures.length - SHOWN} more. All of them: Download on the Pictures part, for {name}.
        </p>
      )}
    </details>
  );
}
