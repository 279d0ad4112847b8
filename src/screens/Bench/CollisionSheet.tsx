'use client';

import { useState } from 'react';
import type { Side } from '@/core/document/merge';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';
import { Places } from './Places';

/** What someone else changed meanwhile, beside what is changed here; nothing is lost before one is chosen. */
export function CollisionSheet() {
  const { state, session, data } = useDesk('state', 'session', 'data');
  const who = state.collisionBy === data.personName ? 'You' : (state.collisionBy ?? 'Someone');
  const [busy, setBusy] = useState(false);
  const choose = async (choice: Side) => {
    setBusy(true);
    await session.resolve(choice).finally(() => setBusy(false));
  };
  return (
    <Sheet open={state.save === 'conflict'} title="Changed in two places" wide>
      <p className="mb-3">
        {who} changed the same thing {who === 'You' ? 'in another tab' : 'elsewhere'} since this page loaded it. Nothing
        was overwritten, and all else that you changed is kept.
      </p>
      <Places places={state.collisions} yours="Yours" />
      <div className="flex gap-3">
        <Button disabled={busy} onClick={() => void choose('yours')}>
          Use mine
        </Button>
        <Button disabled={busy} onClick={() => void choose('theirs')}>
          Keep what is there
        </Button>
      </div>
    </Sheet>
  );
}
