'use client';

import { Button } from '@/ui/Button';

export default function DeskError({ reset }: { error: Error; reset: () => void }) {
  return (
    <div className="px-8 py-10" role="alert">
      <h1 className="font-display text-[24px] font-semibold mb-2">This page could not be shown</h1>
      <p className="text-muted mb-4">
        What you saved is safe. Try again; if it stays, tell whoever runs this copy of Typica when it happened.
      </p>
      <Button kind="primary" onClick={reset}>
        Try again
      </Button>
    </div>
  );
}
