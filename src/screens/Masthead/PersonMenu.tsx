'use client';

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import Link from 'next/link';
import { forgetSaved } from '@/bench/kept';
import { call } from '@/ui/api';

/** Who is signed in, their tokens, and the way out. */
export function PersonMenu({ personName, workspaceName }: { personName: string; workspaceName: string }) {
  const leave = () =>
    void Promise.allSettled([call('DELETE', '/sessions'), forgetSaved()]).then(() => {
      // A whole new page: nothing of the session stays in memory.
      window.location.replace('/sign-in');
    });
  return (
    <Menu>
      <MenuButton className="text-small hover:text-primary">{personName}</MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-50 min-w-52 rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
      >
        <div className="px-3 py-1.5 text-tiny text-muted border-b border-hairline">{workspaceName}</div>
        <MenuItem>
          <Link href="/settings" className="block px-3 py-1.5 data-[focus]:bg-selection">
            Settings
          </Link>
        </MenuItem>
        <MenuItem>
          <Link href="/money" className="block px-3 py-1.5 data-[focus]:bg-selection">
            Rates and rules
          </Link>
        </MenuItem>
        <MenuItem>
          <Link href="/account" className="block px-3 py-1.5 data-[focus]:bg-selection">
            Personal tokens
          </Link>
        </MenuItem>
        <MenuItem>
          <button
            type="button"
            onClick={leave}
            className="block w-full text-left px-3 py-1.5 data-[focus]:bg-selection"
          >
            Sign out
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  );
}
