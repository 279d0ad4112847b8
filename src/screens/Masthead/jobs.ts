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
}

export const isOpen = (job: JobView): boolean => ['waiting', 'queued', 'running'].includes(job.state);

/** One line of what a job does now. */
export function jobLine(job: JobView): string {
  switch (job.state) {
    case 'running':
      return job.progressTotal > 0 ? `${job.progressDone} of ${job.progressTotal} · ${job.progressNote}` : 'Begun';
    case 'waiting':
      return 'Waits for other work';
    case 'queued':
      return job.attempts > 0 && job.error
        ? `Tried ${job.attempts} ×, tries again: ${job.error.message}`
        : 'Next in line';
    case 'done':
      return 'Done';
    case 'cancelled':
      return 'Stopped';
    case 'failed':
      return job.error?.message ?? 'Given up';
  }
}
