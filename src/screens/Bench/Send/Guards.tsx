import type { Guard } from '@/core/sync/guards';
import { Button } from '@/ui/Button';

/** What of it can be left as it is in the shop by one press. */
const LEAVES: { readonly [id in Guard['id']]?: { readonly name: string; readonly as: 'draft' | 'live' } } = {
  'off-sale-there': { name: 'Leave it off sale', as: 'draft' },
  'on-sale-there': { name: 'Leave it on sale', as: 'live' },
};

/** What was done in the shop and reaches further than a field: what it means, and what can be done. */
export function Guards({
  guards,
  onLeave,
}: {
  guards: readonly Guard[];
  onLeave: (visibility: 'draft' | 'live') => void;
}) {
  if (guards.length === 0) return null;
  return (
    <ul className="mt-3 space-y-1 text-small" aria-label="Done in the shop">
      {guards.map(({ id, says, mend }) => {
        const leave = LEAVES[id];
        return (
          <li key={id} className="border-l-[3px] border-stop py-0.5 pl-2">
            {says} <span className="text-muted">{mend}</span>
            {leave && (
              <Button kind="quiet" className="ml-2" onClick={() => onLeave(leave.as)}>
                {leave.name}
              </Button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
