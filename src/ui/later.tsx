'use client';

import { lazy, Suspense, useSyncExternalStore, type ComponentType, type ReactNode } from 'react';

type Load<P> = () => Promise<ComponentType<P>>;

/**
 * A component whose code is loaded when it is first drawn, beside the page. The server draws it all the same, and what it drew stays in view
 * until the code is there. Not `next/dynamic`: its list of what to load ahead names files that do not exist where one such component stands
 * in another.
 */
export function later<P extends object>(load: Load<P>, fallback: ReactNode = null): ComponentType<P> {
  const Part = lazy(() => load().then((component) => ({ default: component })));
  return function Later(props: P) {
    return (
      <Suspense fallback={fallback}>
        <Part {...props} />
      </Suspense>
    );
  };
}

const never = () => () => undefined;

/** The same for what only a browser can draw: the server leaves it out. */
export function laterInBrowser<P extends object>(load: Load<P>): ComponentType<P> {
  const Part = later(load);
  return function Later(props: P) {
    const inBrowser = useSyncExternalStore(
      never,
      () => true,
      () => false,
    );
    return inBrowser && <Part {...props} />;
  };
}
