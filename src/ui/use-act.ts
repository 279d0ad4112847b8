'use client';

import { useState } from 'react';

/** Does one thing at a time: whether something is under way, and why the last one failed. */
export function useAct() {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const act = async (work: () => Promise<unknown>): Promise<void> => {
    setBusy(true);
    setProblem(null);
    try {
      await work();
    } catch (error) {
      setProblem((error as Error).message);
    }
    setBusy(false);
  };
  return { act, busy, problem, setProblem };
}
