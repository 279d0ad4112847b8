import type { Database } from '../db/pool';
import type { JobState } from './job-row';

/** Wakes what waited for a job that is done; what waited for one that was not is cancelled, and what waited for that. */
export async function settleDependents(db: Database, jobId: string, state: JobState): Promise<void> {
  if (state === 'done') {
    await db.run(
      `UPDATE job j JOIN job_dependency d ON d.job_id = j.id
       SET j.state = IF(j.waits_on <= 1, 'queued', j.state), j.waits_on = j.waits_on - 1, j.run_after = UTC_TIMESTAMP(3)
       WHERE d.needs_job_id = ? AND j.state = 'waiting'`,
      [jobId],
    );
    return;
  }
  const dependents = await db.rows<{ id: string }>(
    "SELECT j.id FROM job j JOIN job_dependency d ON d.job_id = j.id WHERE d.needs_job_id = ? AND j.state = 'waiting'",
    [jobId],
  );
  for (const { id } of dependents) {
    await db.run(
      "UPDATE job SET state = 'cancelled', finished_at = UTC_TIMESTAMP(3), error = ? WHERE id = ? AND state = 'waiting'",
      [JSON.stringify({ code: 'need-not-done', message: 'What this waited for was not done.' }), id],
    );
    await settleDependents(db, id, 'cancelled');
  }
}
