'use client';

/** What is done when the session has ended: somebody asks for the password, over the page. Settles when one is signed in again. */
type Ask = () => Promise<void>;

let ask: Ask | null = null;
const listeners = new Set<() => void>();

/** Says who asks. Gives what takes that back. */
export function askBy(next: Ask): () => void {
  ask = next;
  return () => {
    if (ask === next) ask = null;
  };
}

/** Asks to sign in again. Null on a page that does not ask: then there is nothing on it to keep. */
export const askToSignIn = (): Promise<void> | null => ask?.() ?? null;

/** Calls `listener` whenever somebody has signed in again. Gives what ends that. */
export function onSignedIn(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export const tellSignedIn = (): void => listeners.forEach((listener) => listener());
