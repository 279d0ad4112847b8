'use client';

import { useId, useState } from 'react';
import { sentCount, sumOfSteps } from '@/core/words/send-words';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useAct } from '@/ui/use-act';
import type { SendData } from './load';

/** Begins what is planned, now or at a moment of the browser's clock. */
export function Begin({ send, onDone }: { send: SendData['send']; onDone: () => void }) {
  const id = useId();
  const { act, busy, problem } = useAct();
  const [at, setAt] = useState('');
  const n = sentCount(sumOfSteps(send.stores));
  const begin = () =>
    act(async () => {
      const moment = at === '' ? null : new Date(at);
      await call('POST', `/sends/${send.id}/begin`, moment ? { at: moment.toISOString() } : {});
      onDone();
    });
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 bg-selection px-3 py-2">
        <Button kind="primary" disabled={busy || n === 0 || send.unseen > 0} onClick={() => void begin()}>
          {n === 0
            ? 'Nothing to send'
            : at === ''
              ? `Send ${n.toLocaleString('en')} now`
              : `Send ${n.toLocaleString('en')} then`}
        </Button>
        <label htmlFor={id} className="text-muted">
          or at
        </label>
        <input
          id={id}
          type="datetime-local"
          value={at}
          onChange={(event) => setAt(event.target.value)}
          className="rounded-paper border border-edge bg-sheet px-2 py-1"
        />
        {at !== '' && (
          <Button kind="quiet" onClick={() => setAt('')}>
            Now after all
          </Button>
        )}
        <Button
          kind="quiet"
          disabled={busy}
          onClick={() =>
            void act(async () => {
              await call('POST', `/sends/${send.id}/stop`);
              onDone();
            })
          }
        >
          Do not send
        </Button>
      </div>
      {problem && <Alert className="mb-4">{problem}</Alert>}
    </>
  );
}
