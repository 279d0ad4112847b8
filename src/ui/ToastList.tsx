'use client';

import { useEffect } from 'react';
import { Toaster } from 'sonner';
import { toastsAreReady } from './toasts-ready';

/** The list of messages: in the masthead's strip, where nothing is worked on. */
export default function ToastList() {
  useEffect(toastsAreReady, []);
  return (
    <Toaster
      position="top-center"
      offset={{ top: 4 }}
      mobileOffset={{ top: 4 }}
      visibleToasts={2}
      gap={4}
      toastOptions={{
        unstyled: true,
        classNames: {
          toast:
            'flex w-[420px] max-w-[92vw] items-baseline gap-3 rounded-paper border border-ink bg-ink px-3 py-2 font-sans text-small leading-tight text-sheet',
          actionButton: 'ml-auto shrink-0 min-h-6 text-sheet underline underline-offset-2',
          description: 'text-sheet/80',
        },
      }}
    />
  );
}
