'use client';

import { useState } from 'react';
import type { Side } from '@/core/document/merge';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';
import { Places } from './Places';

/** What someone else changed meanwhile, beside what is changed here; nothing is lost before one is chosen. */
export function CollisionSheet() {
  const { state, session } = useDesk();
  const [busy, setBusy] = useState(false);
  const choose = async (choice: Side) => {
    setBusy(true);
    await session.resolve(choice).finally(() => setBusy(false));
  };
  return (
    <Sheet open={state.save === 'conflict'} title="Changed in two places" wide>
      <p className="mb-3">
        {state.collisionBy ?? 'Someone'} changed the same thing in another tab since you loaded it. Nothing was
        overwritten, and all else that you changed is kept.
      </p>
      <Places places={state.collisions} yours="Yours" />
      <div className="flex gap-3">
        <Button kind="primary" disabled={busy} onClick={() => void choose('theirs')}>
          Keep what is there
        </Button>
        <Button disabled={busy} onClick={() => void choose('yours')}>
          Put mine in its place
        </Button>
      </div>
    </Sheet>
  );
}
