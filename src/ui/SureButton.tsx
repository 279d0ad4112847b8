'use client';

import { useState, type ReactNode } from 'react';
import { Button } from './Button';
import { Sheet } from './Sheet';

/** A button for what cannot be undone: it says first what will happen, and asks. */
export function SureButton({
  children,
  title,
  says,
  act,
  kind = 'quiet',
  className,
  disabled,
}: {
  children: string;
  /** The question: `Revoke the token “Shop script”?` */
  title: string;
  /** What will happen. */
  says: ReactNode;
  act: () => Promise<unknown> | void;
  kind?: 'plain' | 'quiet';
  className?: string;
  disabled?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const go = async () => {
    setBusy(true);
    try {
      await act();
    } finally {
      setBusy(false);
      setAsking(false);
    }
  };
  return (
    <>
      <Button kind={kind} className={className} disabled={disabled} onClick={() => setAsking(true)}>
        {children}
      </Button>
      <Sheet open={asking} onClose={() => setAsking(false)} title={title}>
        <p className="mb-4 text-small">{says}</p>
        <div className="flex gap-3">
          <Button kind="primary" disabled={busy} onClick={() => void go()}>
            {children}
          </Button>
          <Button disabled={busy} data-autofocus onClick={() => setAsking(false)}>
            Cancel
          </Button>
        </div>
      </Sheet>
    </>
  );
}
