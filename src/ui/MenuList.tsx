'use client';

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import Link from 'next/link';
import type { MenuEntry, MenuLook } from './menu-look';
import { useOpenAtOnce } from './open-at-once';

const ITEM = 'block w-full px-3 py-1.5 text-left data-[focus]:bg-selection';

/** The menu of an `ActionMenu`, open from the first. */
export default function MenuList({
  entries,
  label,
  title,
  className,
  anchor = 'bottom start',
  head,
  children,
}: MenuLook & { entries: readonly MenuEntry[] }) {
  const button = useOpenAtOnce();
  return (
    <Menu>
      <MenuButton ref={button} aria-label={label} title={title} className={className}>
        {children}
      </MenuButton>
      <MenuItems
        anchor={anchor}
        className="z-50 min-w-48 rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
      >
        {head && <div className="border-b border-hairline px-3 py-1.5 text-tiny text-muted">{head}</div>}
        {entries.map(({ name, act, href }) => (
          <MenuItem key={name}>
            {href === undefined ? (
              <button type="button" className={ITEM} onClick={act}>
                {name}
              </button>
            ) : (
              <Link href={href} className={ITEM}>
                {name}
              </Link>
            )}
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
