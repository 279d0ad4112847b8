'use client';

import { useCallback } from 'react';
import { call } from '@/ui/api';
import { useDesk } from '../desk';
import type { BenchShot } from '../load';

/** Reads the blank's shots anew: one of the seller's own was made or deleted. */
export function useReloadShots(): () => Promise<void> {
  const { data, setShots } = useDesk('data', 'setShots');
  return useCallback(async () => {
    const { shots } = await call<{ shots: BenchShot[] }>('GET', `/blanks/${data.blank.id}/shots`);
    setShots(shots);
  }, [data.blank.id, setShots]);
}
