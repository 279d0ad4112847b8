'use client';

import { useRouter } from 'next/navigation';
import { toast } from '@/ui/toast';
import type { AimsAt } from '@/core/pricing/outlet';
import { call } from '@/ui/api';
import type { BenchStore } from '../load';

/** Changes where a store's one price is to meet its aims, for all products in it. */
export function useAimsAt(store: BenchStore | null): (aimsAt: AimsAt) => void {
  const router = useRouter();
  return (aimsAt) => {
    if (!store) return;
    void call('PATCH', `/stores/${store.id}`, { aimsAt }).then(
      () => router.refresh(),
      (error: Error) => toast.error(error.message),
    );
  };
}
