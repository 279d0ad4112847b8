'use client';

import { useEffect, useSyncExternalStore } from 'react';
import { HotkeysProvider, useHotkeys, useHotkeysContext } from 'react-hotkeys-hook';

/** Keys of the page below; off while a sheet lies over it. */
const PAGE = 'page';

export function KeysProvider({ children }: { children: React.ReactNode }) {
  return <HotkeysProvider initiallyActiveScopes={[PAGE]}>{children}</HotkeysProvider>;
}

/** An open list or menu takes its own keys. */
const listIsOpen = (): boolean => document.querySelector('[role=listbox],[role=menu]') !== null;

/** Keys of a page. A handler answers whether the key was its own; then the browser does nothing more with it. */
export interface PageKeys {
  /** With Ctrl or Command; heard in fields too. */
  readonly commands?: (e: KeyboardEvent) => boolean;
  /** Without them: never in fields, and off where the person turned single keys off. */
  readonly singles?: (e: KeyboardEvent) => boolean;
}

export function usePageKeys({ commands, singles }: PageKeys): void {
  const wanted = useSingleKeys();
  const run = (handler: PageKeys['commands']) => (e: KeyboardEvent) => {
    if (!e.defaultPrevented && handler?.(e)) e.preventDefault();
  };
  useHotkeys(
    '*',
    run((e) => (e.ctrlKey || e.metaKey) && (commands?.(e) ?? false)),
    {
      scopes: PAGE,
      enableOnFormTags: true,
      enableOnContentEditable: true,
      ignoreEventWhen: listIsOpen,
    },
  );
  useHotkeys(
    '*',
    run((e) => !e.ctrlKey && !e.metaKey && (singles?.(e) ?? false)),
    {
      scopes: PAGE,
      enabled: wanted,
      ignoreEventWhen: listIsOpen,
    },
  );
}

let open = 0;

/** Stands in a sheet: while one is open, keys of the page below do nothing. */
export function KeysOff(): null {
  const { enableScope, disableScope } = useHotkeysContext();
  useEffect(() => {
    open += 1;
    disableScope(PAGE);
    return () => {
      open -= 1;
      if (open === 0) enableScope(PAGE);
    };
  }, [enableScope, disableScope]);
  return null;
}

const STORED = 'typica-single-keys';
const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

function singleKeysNow(): boolean {
  try {
    return localStorage.getItem(STORED) !== 'off';
  } catch {
    // A browser that stores nothing for us: they are on, as on a first visit.
    return true;
  }
}

/** Whether keys without Ctrl do something on pages (WCAG 2.2, 2.1.4); kept in this browser. */
export const useSingleKeys = (): boolean => useSyncExternalStore(subscribe, singleKeysNow, () => true);

export function setSingleKeys(on: boolean): void {
  try {
    localStorage.setItem(STORED, on ? 'on' : 'off');
  } finally {
    listeners.forEach((listener) => listener());
  }
}
