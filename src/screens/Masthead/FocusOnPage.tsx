'use client';

import { usePathname } from 'next/navigation';
import { useEffect, useRef } from 'react';

/** Takes the focus to the content of a page that was just opened, where nothing on it took it: else it would be lost with the link. */
export function FocusOnPage() {
  const path = usePathname();
  const seen = useRef(path);
  useEffect(() => {
    if (seen.current === path) return;
    seen.current = path;
    const frame = requestAnimationFrame(() => {
      const at = document.activeElement;
      if (at === null || at === document.body) document.getElementById('content')?.focus({ preventScroll: true });
    });
    return () => cancelAnimationFrame(frame);
  }, [path]);
  return null;
}
