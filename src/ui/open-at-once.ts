import { useEffect, useRef, type RefObject } from 'react';

/**
 * For the button of a list or menu that was loaded because somebody pressed its stand-in: takes the focus over and opens it, as the key
 * ArrowDown does.
 */
export function useOpenAtOnce(): RefObject<HTMLButtonElement | null> {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    button.current?.focus();
    button.current?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true, cancelable: true }));
  }, []);
  return button;
}
