import type { ReactNode } from 'react';

/** What a sheet shows, and how it is closed. */
export interface SheetLook {
  readonly open: boolean;
  /** Absent where one must choose: then it cannot be closed. */
  readonly onClose?: () => void;
  readonly title: string;
  readonly children: ReactNode;
  readonly wide?: boolean | 'full';
}
