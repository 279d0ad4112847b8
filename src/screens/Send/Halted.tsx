'use client';

import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useAct } from '@/ui/use-act';

/** Why a send goes no further, and the way to go on. */
export function Halted({ sendId, says, onDone }: { sendId: string; says: string; onDone: () => void }) {
  const { act, busy, problem } = useAct();
  const again = () =>
    act(async () => {
      await call('POST', `/sends/${sendId}/retry`);
      onDone();
    });
  return (
    <Alert className="mb-4">
      <p>It goes no further: {problem ?? says}</p>
      <Button className="mt-2" disabled={busy} onClick={() => void again()}>
        Go on
      </Button>
    </Alert>
  );
}
