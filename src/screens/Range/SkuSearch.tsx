'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useId, useState } from 'react';

/** After the last letter, ms. */
const TYPE_MS = 300;

/** Finds products by how a SKU of theirs begins. */
export function SkuSearch({ sku }: { sku: string }) {
  const router = useRouter();
  const id = useId();
  const [text, setText] = useState(sku);
  // What is shown by this field's own wish; another address (a link, going back) is followed.
  const [shown, setShown] = useState(sku);
  const [asked, setAsked] = useState(sku);
  if (sku !== shown) {
    setShown(sku);
    if (sku !== asked) {
      setAsked(sku);
      setText(sku);
    }
  }
  useEffect(() => {
    const wanted = text.trim();
    if (wanted === asked) return;
    const timer = setTimeout(() => {
      setAsked(wanted);
      router.replace(wanted ? `/range?sku=${encodeURIComponent(wanted)}` : '/range');
    }, TYPE_MS);
    return () => clearTimeout(timer);
  }, [text, asked, router]);
  return (
    <div className="flex items-baseline gap-2 text-small">
      <label htmlFor={id} className="text-muted">
        SKU
      </label>
      <input
        id={id}
        type="text"
        value={text}
        maxLength={64}
        placeholder="begins with"
        onChange={(e) => setText(e.target.value)}
        className="w-52 rounded-paper border border-hairline bg-sheet px-2 py-1"
      />
    </div>
  );
}
