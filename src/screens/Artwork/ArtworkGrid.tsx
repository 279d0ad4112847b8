import type { ArtworkItem } from './load';
import { isLight, productsLine, sizeLine } from './view';

/** Artwork as thumbnails: one is looked at, several can be ticked. */
export function ArtworkGrid({
  items,
  chosen,
  picked,
  dim,
  onChoose,
  onPick,
}: {
  items: readonly ArtworkItem[];
  chosen: string | null;
  picked: ReadonlySet<string>;
  /** While files are held over the page. */
  dim: boolean;
  onChoose: (id: string) => void;
  onPick: (id: string) => void;
}) {
  return (
    <ul
      className={`mt-4 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-3 gap-y-4 ${dim ? 'opacity-50' : ''}`}
    >
      {items.map((one) => (
        <li key={one.id} className="relative">
          <button
            type="button"
            aria-pressed={one.id === chosen}
            onClick={() => onChoose(one.id)}
            className="w-full text-left"
          >
            <span
              className={`relative block aspect-square rounded-paper border ${isLight(one) ? 'bg-muted' : 'bg-board'} ${one.id === chosen ? 'border-ink outline-2 outline-ink' : 'border-hairline'}`}
            >
              {one.state === 'ready' && (
                <img
                  src={`/api/v1/artwork/${one.id}/thumbnail`}
                  alt=""
                  loading="lazy"
                  className="absolute inset-0 size-full object-contain p-2.5"
                />
              )}
            </span>
            <span className="mt-1.5 block truncate text-base">{one.name}</span>
            <span className="block text-tiny text-muted">{sizeLine(one)}</span>
            <span className="block text-tiny text-muted">{productsLine(one)}</span>
          </button>
          <label className="absolute left-1 top-1 grid size-7 place-items-center rounded-paper bg-sheet/80">
            <input
              type="checkbox"
              aria-label={`Tick ${one.name}`}
              className="size-4 accent-primary"
              checked={picked.has(one.id)}
              onChange={() => onPick(one.id)}
            />
          </label>
        </li>
      ))}
    </ul>
  );
}
