'use client';

import { lazy, Suspense, useSyncExternalStore } from 'react';
import type { ExternalToast } from 'sonner';
import { toastsReady } from './toasts-ready';

const ToastList = lazy(() => import('./ToastList'));

let wanted = false;
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};
async function show(how: 'plain' | 'error', says: string, more?: ExternalToast): Promise<void> {
  wanted = true;
  listeners.forEach((listener) => listener());
  const [{ toast: list }] = await Promise.all([import('sonner'), toastsReady]);
  if (how === 'error') list.error(says, more);
  else list(says, more);
}

/** A message at the top of the page that goes by itself. */
export const toast = Object.assign((says: string, more?: ExternalToast): void => void show('plain', says, more), {
  error: (says: string, more?: ExternalToast): void => void show('error', says, more),
});

/** Where messages appear; what shows them is loaded with the first. */
export function Toasts() {
  const on = useSyncExternalStore(
    subscribe,
    () => wanted,
    () => false,
  );
  return on ? (
    <Suspense fallback={null}>
      <ToastList />
    </Suspense>
  ) : null;
}
