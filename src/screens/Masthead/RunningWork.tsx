'use client';

import { later } from '@/ui/later';

/** The counter of running work; what asks for the jobs comes beside the page. */
export const RunningWork = later(
  () => import('./RunningJobs').then((m) => m.RunningJobs),
  <span className="text-small text-muted">Nothing running</span>,
);
