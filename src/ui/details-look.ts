import type { ReactNode } from 'react';

/** A button and the panel that it opens. */
export interface DetailsLook {
  readonly label?: string;
  readonly buttonClass: string;
  readonly className?: string;
  readonly panelClass: string;
  readonly anchor: 'top start' | 'bottom start' | 'bottom end';
  readonly button: ReactNode;
  readonly children: ReactNode;
}
