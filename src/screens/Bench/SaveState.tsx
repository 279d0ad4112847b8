'use client';

import type { SessionState } from '@/bench/session-types';
import { Button } from '@/ui/Button';
import { useDesk } from './desk';
import { timeText } from '@/ui/when';

function saveWords({ save, savedAt }: SessionState): string {
  switch (save) {
    case 'saving':
      return 'Saving …';
    case 'offline':
      return 'Offline: not saved yet';
    case 'signed-out':
      return 'Not saved: signed out';
    case 'gone':
      return 'Not saved: archived';
    case 'conflict':
      return 'Conflict: choose a version';
    case 'saved':
      return savedAt === null ? 'All saved' : `Saved ${timeText(savedAt)}`;
  }
}

/** What is to be known when nothing can be sent: that nothing is lost, and what happens next. */
const COMFORT = new Map<SessionState['save'], string>([
  ['offline', 'The server does not answer. Your changes are kept in this browser and sent automatically.'],
  ['signed-out', 'Your changes are kept in this browser and sent as soon as you are signed in.'],
  [
    'gone',
    'This product was archived, in another tab or by somebody else. What you changed since is kept in this browser only.',
  ],
]);

/** Whether all is saved, in two or three words. */
export function SaveState() {
  const { state } = useDesk('state');
  return (
    <span
      role="status"
      data-testid="save-state"
      className={state.save === 'saved' || state.save === 'saving' ? '' : 'text-small font-semibold text-stop'}
    >
      {saveWords(state)}
    </span>
  );
}

/** What stands in the way of saving, and what could not be kept. */
export function SaveTrouble() {
  const { state, session } = useDesk('state', 'session');
  const comfort = COMFORT.get(state.save);
  return (
    <>
      {comfort && (
        <p className="mx-[18px] mb-3 border-l-[3px] border-caution pl-2 text-tiny" data-testid="save-trouble">
          {comfort}
        </p>
      )}
      {state.notKept.length > 0 && (
        <div role="alert" className="mx-[18px] mb-3 border-l-[3px] border-stop pl-2 text-tiny" data-testid="not-kept">
          <p className="text-stop">Not kept:</p>
          <ul className="max-h-40 overflow-auto break-words">
            {state.notKept.map(({ label, why }, i) => (
              <li key={i}>
                <span className="font-semibold">{label}</span>: {why}
              </li>
            ))}
          </ul>
          <Button kind="quiet" onClick={() => session.forgetNotKept()}>
            I have read it
          </Button>
        </div>
      )}
    </>
  );
}
