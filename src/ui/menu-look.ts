import type { ReactNode } from 'react';

/** An entry of a menu: what it does, or where it leads. */
export interface MenuEntry {
  readonly name: string;
  readonly act?: () => void;
  readonly href?: string;
}

export interface MenuLook {
  /** The accessible name, where the button's content is no words. */
  readonly label?: string;
  readonly title?: string;
  readonly className: string;
  readonly anchor?: 'bottom start' | 'bottom end';
  /** What stands above the entries. */
  readonly head?: string;
  readonly children: ReactNode;
}
