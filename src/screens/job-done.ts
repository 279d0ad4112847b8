import { call } from '@/ui/api';

interface AskedJob<T> {
  readonly state: string;
  readonly result: T | null;
  readonly error: { readonly message: string } | null;
}

/** How often one asks: often at first, less often for what takes long. */
const FIRST_MS = 300;
const LAST_MS = 3000;

/** What a job gave, once it is done. Throws the reason when it was given up or stopped. */
export async function jobDone<T>(id: string): Promise<T> {
  for (let wait = FIRST_MS; ; wait = Math.min(LAST_MS, wait * 1.3)) {
    const job = await call<AskedJob<T>>('GET', `/jobs/${id}`);
    if (job.state === 'done') return job.result as T;
    if (job.state === 'failed' || job.state === 'cancelled')
      throw new Error(job.error?.message ?? 'This was stopped; what was done until then stays.');
    await new Promise((resume) => setTimeout(resume, wait));
  }
}
