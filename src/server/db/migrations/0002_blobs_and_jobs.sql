-- Bytes by content: artwork, print files, mock-ups, passes of shots. What refers to a blob does so by foreign key, so that one in use
-- cannot be cleaned away.
CREATE TABLE IF NOT EXISTS blob_object (
  sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  size_bytes BIGINT UNSIGNED NOT NULL,
  media_type VARCHAR(100) CHARACTER SET ascii NOT NULL,
  -- When it was last put: one that nothing refers to is kept for a while after this.
  touched_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY blob_touched (touched_at)
);

CREATE TABLE IF NOT EXISTS job_group (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  title VARCHAR(200) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  cancelled_at DATETIME(3) NULL,
  KEY job_group_workspace (workspace_id, created_at),
  CONSTRAINT job_group_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

CREATE TABLE IF NOT EXISTS job (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  group_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  kind VARCHAR(60) CHARACTER SET ascii NOT NULL,
  title VARCHAR(200) NOT NULL,
  payload JSON NOT NULL,
  -- waiting: on other jobs; queued; running; done; failed: given up; cancelled
  state ENUM('waiting', 'queued', 'running', 'done', 'failed', 'cancelled') NOT NULL,
  priority INT NOT NULL DEFAULT 0,
  run_after DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  attempts INT NOT NULL DEFAULT 0,
  max_attempts INT NOT NULL DEFAULT 5,
  lease_token CHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  lease_until DATETIME(3) NULL,
  cancel_asked BOOLEAN NOT NULL DEFAULT FALSE,
  progress_done INT NOT NULL DEFAULT 0,
  progress_total INT NOT NULL DEFAULT 0,
  progress_note VARCHAR(200) NOT NULL DEFAULT '',
  idempotency_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  waits_on INT NOT NULL DEFAULT 0,
  result JSON NULL,
  error JSON NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  finished_at DATETIME(3) NULL,
  UNIQUE KEY job_idempotency (workspace_id, idempotency_key),
  KEY job_claim (state, priority, run_after),
  KEY job_lease (state, lease_until),
  KEY job_workspace (workspace_id, created_at),
  KEY job_group_state (group_id, state),
  KEY job_store (store_id, state),
  CONSTRAINT job_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT job_group_fk FOREIGN KEY (group_id) REFERENCES job_group (id)
);

CREATE TABLE IF NOT EXISTS job_dependency (
  job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  needs_job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (job_id, needs_job_id),
  KEY job_dependency_needs (needs_job_id),
  CONSTRAINT job_dependency_job_fk FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE,
  CONSTRAINT job_dependency_needs_fk FOREIGN KEY (needs_job_id) REFERENCES job (id) ON DELETE CASCADE
);

-- A token bucket for each store: requests to its shop, shared by all workers.
CREATE TABLE IF NOT EXISTS store_rate (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  tokens DOUBLE NOT NULL,
  refilled_at DATETIME(3) NOT NULL
);

-- What browsers are told, in order; old rows are dropped.
CREATE TABLE IF NOT EXISTS event (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  topic VARCHAR(40) CHARACTER SET ascii NOT NULL,
  payload JSON NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY event_created (created_at)
);
