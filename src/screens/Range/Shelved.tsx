'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Button } from '@/ui/Button';
import { restore } from '../product-actions';

/** The address of a product that is not in the range now. */
export function Shelved({ id, title, shelf }: { id: string; title: string; shelf: 'archived' | 'deleted' }) {
  const router = useRouter();
  return (
    <div className="px-8 py-10">
      <h1 className="mb-2 font-display text-[24px] font-semibold">{title || 'Untitled'}</h1>
      <p className="mb-4 max-w-lg text-muted">
        {shelf === 'archived'
          ? 'This product is archived: it is not in the range, and its listings stay in the shops as they are.'
          : 'This product was deleted. It can be restored for 30 days.'}
      </p>
      <div className="flex items-center gap-5">
        <Button kind="primary" onClick={() => void restore({ id, title }, () => router.refresh())}>
          Restore
        </Button>
        <Link href={`/range?in=${shelf}`} className="text-small text-primary underline">
          All {shelf} products
        </Link>
      </div>
    </div>
  );
}
