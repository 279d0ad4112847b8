'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

/** After the last letter, ms. */
const TYPE_MS = 300;

/** Finds products by how a SKU of theirs begins. */
export function SkuSearch({ sku }: { sku: string }) {
  const router = useRouter();
  const [text, setText] = useState(sku);
  useEffect(() => {
    const wanted = text.trim();
    if (wanted === sku) return;
    const timer = setTimeout(
      () => router.replace(wanted ? `/range?sku=${encodeURIComponent(wanted)}` : '/range'),
      TYPE_MS,
    );
    return () => clearTimeout(timer);
  }, [text, sku, router]);
  return (
    <label className="flex items-baseline gap-2 text-small">
      <span className="text-muted">SKU</span>
      <input
        type="search"
        value={text}
        maxLength={64}
        placeholder="begins with"
        onChange={(e) => setText(e.target.value)}
        className="w-52 rounded-paper border border-hairline bg-sheet px-2 py-1"
      />
    </label>
  );
}
