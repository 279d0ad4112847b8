'use client';

import { laterInBrowser } from '@/ui/later';
import { useEffect } from 'react';
import { SignInAgain } from '@/screens/SignIn/SignInAgain';
import { startEvents } from '@/ui/events';

// Needed by few pages, and by none at once.
const LeftEdits = laterInBrowser(() => import('./LeftEdits').then((part) => part.LeftEdits));

/** What every page does beside what it shows: it hears what changes, asks to sign in again, and tells of edits that were left unsaved. */
export function LiveDesk({ after, email, personId }: { after: number; email: string; personId: string }) {
  useEffect(() => startEvents(after), [after]);
  return (
    <>
      <LeftEdits personId={personId} />
      <SignInAgain email={email} personId={personId} />
    </>
  );
}
