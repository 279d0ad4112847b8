'use client';

import { timeLeftWords } from '@/core/words/send-words';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { dayAndTime } from '@/ui/when';
import { useAct } from '@/ui/use-act';
import type { SendData, SendProgress } from './load';

/** How far a send is, with what can be done about it. */
export function Going({
  send,
  state,
  progress,
  onDone,
}: {
  send: SendData['send'];
  state: string;
  progress: SendProgress;
  onDone: () => void;
}) {
  const { act, busy, problem } = useAct();
  const ask = (what: string) =>
    void act(async () => {
      await call('POST', `/sends/${send.id}/${what}`);
      onDone();
    });
  const { done, failed, cancelled, open, lastMinute } = progress;
  const all = done + failed + cancelled + open;
  const left = timeLeftWords(open, lastMinute);
  const parts = [
    `${done.toLocaleString('en')} sent`,
    failed > 0 ? `${failed} failed` : '',
    cancelled > 0 ? `${cancelled} stopped` : '',
    open > 0 ? `${open.toLocaleString('en')} to go` : '',
    lastMinute > 0 && open > 0 ? `${lastMinute} in the last minute` : '',
    state === 'being sent' && left ? left : '',
    state === 'put off' && send.startsAt ? `begins on ${dayAndTime(send.startsAt)}` : '',
  ].filter(Boolean);
  return (
    <>
      <div className="mb-4 bg-selection px-3 py-2">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <span role="status">{parts.join(' · ')}</span>
          <span className="ml-auto flex gap-3">
            {state === 'being sent' && (
              <Button disabled={busy} onClick={() => ask('pause')}>
                Pause
              </Button>
            )}
            {state === 'paused' && (
              <Button disabled={busy} onClick={() => ask('resume')}>
                Resume
              </Button>
            )}
            {failed > 0 && (
              <Button disabled={busy} onClick={() => ask('retry')}>
                Try the failed ones again
              </Button>
            )}
            {state !== 'ended' && state !== 'stopped' && (
              <Button disabled={busy} onClick={() => ask('stop')}>
                Stop
              </Button>
            )}
          </span>
        </div>
        {all > 0 && (
          <progress
            aria-label="Listings sent"
            className="mt-2 block h-1.5 w-full appearance-none [&::-webkit-progress-bar]:bg-hairline [&::-webkit-progress-value]:bg-primary"
            value={all - open}
            max={all}
          />
        )}
      </div>
      {problem && <Alert className="mb-4">{problem}</Alert>}
    </>
  );
}
