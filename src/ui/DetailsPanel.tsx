'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { useEffect, useRef } from 'react';
import type { DetailsLook } from './details-look';

/** The panel of `Details`, open from the first. */
export default function DetailsPanel({
  label,
  buttonClass,
  className,
  panelClass,
  anchor,
  button,
  children,
}: DetailsLook) {
  const opener = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    opener.current?.focus();
    opener.current?.click();
  }, []);
  return (
    <Popover className={className}>
      <PopoverButton ref={opener} className={buttonClass} aria-label={label}>
        {button}
      </PopoverButton>
      <PopoverPanel anchor={anchor} className={panelClass}>
        {children}
      </PopoverPanel>
    </Popover>
  );
}
