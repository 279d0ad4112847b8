'use client';

import type { PatchConflict } from '@/core/document/patch';
import { Button } from '@/ui/Button';
import { TableHead } from '@/ui/TableHead';
import { useDesk } from './desk';
import { differing, placeName, placeValue } from './place-name';

/** Places in a product with what is there now beside what one wants there; where texts differ is marked. */
export function Places({ places, yours }: { places: readonly (PatchConflict & { label?: string })[]; yours: string }) {
  const { doc } = useDesk('doc');
  const valueOf = (path: string, value: unknown) => placeValue(path, value, doc.price.currency);
  return (
    <div className="max-h-[50vh] overflow-auto mb-4">
      <table className="w-full text-small table-fixed">
        <TableHead className="border-y border-hairline" columns={[['What', 'py-1.5 w-40'], 'There now', yours]} />
        <tbody>
          {places.map((place) => {
            const [theirs, own] = [valueOf(place.path, place.theirs), valueOf(place.path, place.yours)];
            return (
              <tr key={place.path} className="border-b border-hairline align-top [&>td]:py-1.5">
                <td>
                  {placeName(place.path)}
                  {place.label && place.label !== placeName(place.path) && (
                    <span className="block text-tiny text-muted">{place.label}</span>
                  )}
                </td>
                <td className="pr-4 break-words" data-testid="theirs">
                  <Marked text={theirs} other={own} />
                </td>
                <td className="break-words" data-testid="yours">
                  <Marked text={own} other={theirs} />
                  {typeof place.yours === 'string' && place.yours !== '' && (
                    <span className="block">
                      <Button kind="quiet" onClick={() => void navigator.clipboard.writeText(own)}>
                        Copy
                      </Button>
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** A text in which what the other does not have is marked: all between what both begin and end with. */
function Marked({ text, other }: { text: string; other: string }) {
  const [from, to] = differing(text, other);
  if (from >= to || (from === 0 && to === text.length)) return text;
  return (
    <>
      {text.slice(0, from)}
      <mark className="bg-selection font-medium">{text.slice(from, to)}</mark>
      {text.slice(to)}
    </>
  );
}
