'use client';

import { lazy, Suspense, useState } from 'react';
import type { MenuEntry, MenuLook } from './menu-look';

const MenuList = lazy(() => import('./MenuList'));

/** A button that opens a menu. The menu itself is loaded when it is first opened. */
export function ActionMenu({ entries, ...look }: MenuLook & { entries: readonly MenuEntry[] }) {
  const [opened, setOpened] = useState(false);
  const closed = (
    <button
      type="button"
      aria-label={look.label}
      title={look.title}
      aria-haspopup="menu"
      aria-expanded={false}
      className={look.className}
      onPointerEnter={() => void import('./MenuList')}
      onFocus={() => void import('./MenuList')}
      onClick={() => setOpened(true)}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowDown') return;
        e.preventDefault();
        setOpened(true);
      }}
    >
      {look.children}
    </button>
  );
  return opened ? (
    <Suspense fallback={closed}>
      <MenuList entries={entries} {...look} />
    </Suspense>
  ) : (
    closed
  );
}
