/** What went wrong on the way to a shop and back, by the code in our address: an address never holds the sentence itself, or any link could. */
const SAYS: ReadonlyMap<string, string> = new Map([
  ['not-allowed', 'You did not allow the connection. Nothing was changed.'],
  [
    'connect-state',
    'This connection was not begun here in the last ten minutes, or was finished already. Connect the store again.',
  ],
  ['shop-token', 'The shop did not accept the connection. Connect the store again.'],
  ['shop-unreachable', 'The shop does not answer just now. Try again in a few minutes.'],
]);

/** The sentence for a code; a plain one for a code that we do not know, none without a code. */
export function problemSays(code: string | string[] | undefined): string | null {
  if (typeof code !== 'string') return null;
  return SAYS.get(code) ?? 'The store could not be connected. Nothing was changed; try again.';
}
