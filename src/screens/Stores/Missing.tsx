'use client';

import { isMass } from '@/core/sync/missing';
import { count } from '@/core/words/count';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { SureButton } from '@/ui/SureButton';
import { toast } from '@/ui/toast';
import type { StoreData } from './load';

/** Listings that the shop does not find, where it is so much at once that it may be the shop that is wrong. */
export function Missing({
  store,
  busy,
  act,
}: {
  store: StoreData;
  busy: boolean;
  act: (work: () => Promise<unknown>) => Promise<void>;
}) {
  if (!isMass(store.missing)) return null;
  const { missing, total } = store.missing;
  const say = (deleted: boolean) =>
    void act(async () => {
      await call('POST', `/stores/${store.id}/missing`, { deleted });
      toast('They are looked for once more, in the next minutes.');
    });
  return (
    <section className="mb-5 border-l-[3px] border-stop pl-3 text-small" aria-label="Not found in the shop">
      <p>
        The shop does not find {missing.toLocaleString('en')} of {count(total, 'listing')}.{' '}
        <span className="text-muted">
          So many at once may be a fault of the shop. They stay as they are here until you say that they were deleted.
        </span>
      </p>
      <p className="mt-1 flex gap-4">
        <Button kind="quiet" disabled={busy} onClick={() => say(false)}>
          Look for them again
        </Button>
        <SureButton
          disabled={busy}
          title={`Were ${count(missing, 'listing')} deleted in ${store.name}?`}
          says="Each is looked for once more. What is not found then is not listed any more here; it can be sent again as a new listing."
          act={() => say(true)}
        >
          They were deleted there
        </SureButton>
      </p>
    </section>
  );
}
