'use client';

import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';
import { Places } from './Places';

/** Asks before undoing or redoing writes over what somebody else has set since. */
export function TurnSheet() {
  const { state, session } = useDesk('state', 'session');
  const { question } = state;
  const verb = question?.way === 'redo' ? 'Redo' : 'Undo';
  return (
    <Sheet
      open={question !== null}
      onClose={() => session.answer(false)}
      title={`${verb} “${question?.label ?? ''}”?`}
      wide
    >
      <p className="mb-3">
        Somebody else has changed the same thing after you. {verb === 'Undo' ? 'Undoing' : 'Redoing'} it would put
        another value in place of theirs.
      </p>
      <Places places={question?.others ?? []} yours={`After ${verb.toLowerCase()}`} />
      <div className="flex gap-3">
        <Button kind="primary" onClick={() => session.answer(false)}>
          Cancel
        </Button>
        <Button onClick={() => session.answer(true)}>{verb} it anyway</Button>
      </div>
    </Sheet>
  );
}
