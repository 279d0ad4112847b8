'use client';

import { lazy, Suspense, useState } from 'react';
import type { SheetLook } from './sheet-look';

const SheetDialog = lazy(() => import('./SheetDialog'));

/** A dialog: a sheet of paper over the desk. It is loaded when one is first opened, and gives the focus back when it is closed. */
export function Sheet(look: SheetLook) {
  const [wasOpen, setWasOpen] = useState(look.open);
  if (look.open && !wasOpen) setWasOpen(true);
  return wasOpen ? (
    <Suspense fallback={null}>
      <SheetDialog {...look} />
    </Suspense>
  ) : null;
}
