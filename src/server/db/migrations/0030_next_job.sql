-- The next job of a queue is the first row of `job_next`: nothing is sorted, and no other row is locked. Whether a queue has one that may run now is read
-- off `job_ready`, past all that wait for later.
ALTER TABLE job ADD KEY IF NOT EXISTS job_next (state, workspace_id, queue_store, priority DESC, run_after, id);
ALTER TABLE job ADD KEY IF NOT EXISTS job_ready (state, workspace_id, queue_store, run_after);
ALTER TABLE job DROP KEY IF EXISTS job_queue;
-- Shops tell by their own ids what was changed there.
ALTER TABLE listing ADD KEY IF NOT EXISTS listing_there (store_id, external_id);
