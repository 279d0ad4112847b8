'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { isUnsent, KeptSessions, sessionLock } from '@/bench/kept';
import { heldLocks } from '@/ui/tab-lock';

interface Left {
  readonly productId: string;
  readonly title: string;
}

/** Products with edits that were never saved and that no tab has open, each once. */
async function leftEdits(personId: string): Promise<Left[]> {
  const sessions = await KeptSessions.open();
  const [records, held] = await Promise.all([sessions.of(personId), heldLocks()]);
  sessions.close();
  const left = records.filter(({ id, session }) => isUnsent(session) && !held.has(sessionLock(id)));
  return [...new Map(left.map(({ productId, session }) => [productId, { productId, title: session.title }])).values()];
}

/** Time in which a page that was just left sends what it can, ms. */
const SETTLE_MS = 1500;
const SHOWN = 3;

/** Says which products have edits that a closed tab left behind; opening one saves them. */
export function LeftEdits({ personId }: { personId: string }) {
  const path = usePathname();
  const [left, setLeft] = useState<readonly Left[]>([]);
  useEffect(() => {
    let current = true;
    const look = () =>
      void leftEdits(personId).then(
        (all) => current && setLeft(all),
        // A browser that keeps nothing has left nothing.
        () => undefined,
      );
    const timer = setTimeout(look, SETTLE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [personId, path]);
  const others = left.filter(({ productId }) => path !== `/products/${productId}`);
  if (others.length === 0) return null;
  return (
    <p role="status" data-testid="left-edits" className="shrink-0 border-b border-hairline px-[18px] py-1.5 text-small">
      <span className="text-caution">Not saved yet:</span> edits of{' '}
      {others.slice(0, SHOWN).map(({ productId, title }, i) => (
        <span key={productId}>
          {i > 0 && ', '}
          <Link href={`/products/${productId}`} className="text-primary underline">
            {title.trim() || 'Untitled'}
          </Link>
        </span>
      ))}
      {others.length > SHOWN && ` and ${others.length - SHOWN} more`} are kept in this browser. Open{' '}
      {others.length === 1 ? 'it' : 'them'} to save {others.length === 1 ? 'it' : 'them'}.
    </p>
  );
}
