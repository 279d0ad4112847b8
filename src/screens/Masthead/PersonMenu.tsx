'use client';

import { ActionMenu } from '@/ui/ActionMenu';
import { call } from '@/ui/api';

/** Who is signed in, their settings, and the way out. */
export function PersonMenu({ personName, workspaceName }: { personName: string; workspaceName: string }) {
  const leave = () =>
    void Promise.allSettled([
      call('DELETE', '/sessions'),
      import('@/bench/kept').then((kept) => kept.forgetSaved()),
    ]).then(() => {
      // A whole new page: nothing of the session stays in memory.
      window.location.replace('/sign-in');
    });
  return (
    <ActionMenu
      className="min-h-6 text-small hover:text-primary"
      anchor="bottom end"
      head={workspaceName}
      entries={[
        { name: 'Activity', href: '/activity' },
        { name: 'Settings', href: '/settings' },
        { name: 'Rates and rules', href: '/money' },
        { name: 'Personal tokens', href: '/account' },
        { name: 'Sign out', act: leave },
      ]}
    >
      {personName}
    </ActionMenu>
  );
}
