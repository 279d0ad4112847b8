import type { PatchConflict } from '@/core/document/patch';
import { placeName } from './place-name';

const shown = (value: unknown): string =>
  value === undefined ? '(not there)' : typeof value === 'string' ? value || '(empty)' : JSON.stringify(value);

/** Places in a product with what is there now beside what one wants there. */
export function Places({ places, yours }: { places: readonly (PatchConflict & { label?: string })[]; yours: string }) {
  return (
    <div className="max-h-[50vh] overflow-auto mb-4">
      <table className="w-full text-small table-fixed">
        <thead className="text-left text-muted border-y border-hairline">
          <tr>
            <th className="font-normal py-1.5 w-40">What</th>
            <th className="font-normal">There now</th>
            <th className="font-normal">{yours}</th>
          </tr>
        </thead>
        <tbody>
          {places.map((place) => (
            <tr key={place.path} className="border-b border-hairline align-top [&>td]:py-1.5">
              <td>
                {placeName(place.path)}
                {place.label && place.label !== placeName(place.path) && (
                  <span className="block text-tiny text-muted">{place.label}</span>
                )}
              </td>
              <td className="pr-4 break-words" data-testid="theirs">
                {shown(place.theirs)}
              </td>
              <td className="break-words" data-testid="yours">
                {shown(place.yours)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
