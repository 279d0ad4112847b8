'use client';

import { useQuery } from '@tanstack/react-query';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Details } from '@/ui/Details';
import { isOpen, isPutOff, jobLine, type JobView } from './jobs';

/** Most jobs that the API tells at once. */
const MOST_TOLD = 50;

/** The counter of running work; it opens to the jobs with their progress. */
export function RunningJobs() {
  const {
    data: jobs = [],
    dataUpdatedAt: loadedAt,
    refetch,
  } = useQuery(
    {
      queryKey: ['job'],
      queryFn: () => call<{ jobs: JobView[] }>('GET', '/jobs').then((answer) => answer.jobs),
    },
    queries(),
  );
  const running = jobs.filter((job) => isOpen(job) && !isPutOff(job, loadedAt));
  const act = (job: JobView, what: 'cancel' | 'retry') =>
    void call('POST', `/jobs/${job.id}/${what}`).finally(() => void refetch());
  return (
    <Details
      className="relative"
      anchor="bottom end"
      buttonClass="min-h-6 text-small text-muted hover:text-ink"
      panelClass="z-50 w-96 max-w-[94vw] max-h-[70vh] overflow-auto rounded-paper border border-ink bg-sheet"
      button={
        <>
          <span aria-hidden>{running.length > 0 ? '◔ ' : ''}</span>
          {running.length > 0
            ? `${running.length}${running.length >= MOST_TOLD ? '+' : ''} running`
            : 'Nothing running'}
        </>
      }
    >
      {jobs.length === 0 && (
        <p className="p-4 text-small text-muted">Work that takes a while is listed here with how far it is.</p>
      )}
      <ul>
        {jobs.slice(0, 20).map((job) => (
          <li key={job.id} className="border-b border-hairline last:border-0 px-4 py-2.5">
            <div className="flex justify-between gap-3">
              <span className="text-small font-medium">{job.title}</span>
              {isOpen(job) && (
                <Button kind="quiet" onClick={() => act(job, 'cancel')}>
                  Stop
                </Button>
              )}
              {(job.state === 'failed' || job.state === 'cancelled') && (
                <Button kind="quiet" onClick={() => act(job, 'retry')}>
                  Try again
                </Button>
              )}
            </div>
            <div className={`text-tiny ${job.state === 'failed' ? 'text-stop' : 'text-muted'}`}>
              {jobLine(job, loadedAt)}
            </div>
            {job.state === 'running' && job.progressTotal > 0 && (
              <progress
                aria-label={`Progress of ${job.title}`}
                className="w-full h-1 mt-1 accent-primary"
                value={job.progressDone}
                max={job.progressTotal}
              />
            )}
          </li>
        ))}
      </ul>
    </Details>
  );
}
