import { calendarDay } from '@/ui/when';

/** A job as the API tells it, as far as the panel shows it. */
export interface JobView {
  readonly id: string;
  readonly title: string;
  readonly state: 'waiting' | 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly progressDone: number;
  readonly progressTotal: number;
  readonly progressNote: string;
  readonly attempts: number;
  readonly error: { readonly message: string } | null;
  /** ISO time before which it does not begin. */
  readonly runAfter: string;
}

/** Put off to a day to come: nothing is done about it now. */
export const isPutOff = (job: JobView, now: number): boolean =>
  job.state === 'queued' && job.attempts === 0 && Date.parse(job.runAfter) > now + 60_000;

export const isOpen = (job: JobView): boolean => ['waiting', 'queued', 'running'].includes(job.state);

/** One line of what a job does now. */
export function jobLine(job: JobView, now: number): string {
  switch (job.state) {
    case 'running':
      return job.progressTotal > 0 ? `${job.progressDone} of ${job.progressTotal} · ${job.progressNote}` : 'Started';
    case 'waiting':
      return 'Queued behind other work';
    case 'queued':
      if (isPutOff(job, now)) return `Begins on ${calendarDay(job.runAfter)}`;
      return job.attempts > 0 && job.error ? `Failed ${job.attempts} ×, retrying: ${job.error.message}` : 'Queued';
    case 'done':
      return 'Done';
    case 'cancelled':
      return 'Stopped';
    case 'failed':
      return job.error?.message ?? 'Failed';
  }
}
