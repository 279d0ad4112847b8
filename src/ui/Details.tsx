'use client';

import { lazy, Suspense, useState } from 'react';
import type { DetailsLook } from './details-look';

const DetailsPanel = lazy(() => import('./DetailsPanel'));

/** A button that opens a small panel beside it. The panel is loaded when it is first opened. */
export function Details(look: DetailsLook) {
  const [opened, setOpened] = useState(false);
  const closed = (
    <div className={look.className}>
      <button
        type="button"
        aria-label={look.label}
        aria-expanded={false}
        className={look.buttonClass}
        onPointerEnter={() => void import('./DetailsPanel')}
        onFocus={() => void import('./DetailsPanel')}
        onClick={() => setOpened(true)}
      >
        {look.button}
      </button>
    </div>
  );
  return opened ? (
    <Suspense fallback={closed}>
      <DetailsPanel {...look} />
    </Suspense>
  ) : (
    closed
  );
}
