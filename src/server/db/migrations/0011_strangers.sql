-- Addresses are kept in small letters and compared letter by letter: jose and josé are two people.
UPDATE person SET email = LOWER(email);
ALTER TABLE person MODIFY email VARCHAR(200) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL;

-- Tries to sign in, by address and by where they come from; a try that succeeds is taken out again.
DROP TABLE IF EXISTS failed_sign_in;
CREATE TABLE IF NOT EXISTS sign_in_try (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  -- SHA-256 of the address: somebody may have typed a password there.
  email_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  client VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  tried_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY sign_in_try_pair (email_hash, client, tried_at),
  KEY sign_in_try_client (client, tried_at),
  KEY sign_in_try_age (tried_at)
);

-- Places from which somebody has signed in to an address: what others try from there does not keep them out.
CREATE TABLE IF NOT EXISTS sign_in_place (
  email_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  client VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  signed_in_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (email_hash, client),
  KEY sign_in_place_age (signed_in_at)
);

CREATE TABLE IF NOT EXISTS sign_up (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  client VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY sign_up_client (client, made_at),
  KEY sign_up_age (made_at)
);

-- What a token may do, as a comma-separated list, and until when. Tokens from before keep what they could, for a year.
ALTER TABLE access_token ADD COLUMN IF NOT EXISTS scopes VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT 'read,design,price,send,money,keys';
ALTER TABLE access_token ADD COLUMN IF NOT EXISTS expires_at DATETIME(3) NOT NULL DEFAULT (CURRENT_TIMESTAMP(3) + INTERVAL 365 DAY);

-- Bytes that a workspace has brought are added up without looking at the blobs.
ALTER TABLE artwork ADD COLUMN IF NOT EXISTS size_bytes BIGINT UNSIGNED NOT NULL DEFAULT 0;
UPDATE artwork a JOIN blob_object b ON b.sha256 = a.original_sha256 SET a.size_bytes = b.size_bytes WHERE a.size_bytes = 0;
ALTER TABLE artwork ADD KEY IF NOT EXISTS artwork_used_bytes (workspace_id, size_bytes);

-- Renderings can be made again: when a workspace holds too many bytes of them, those that were used longest ago go.
ALTER TABLE rendering ADD COLUMN IF NOT EXISTS size_bytes BIGINT UNSIGNED NOT NULL DEFAULT 0;
UPDATE rendering r JOIN blob_object b ON b.sha256 = r.sha256 SET r.size_bytes = b.size_bytes WHERE r.size_bytes = 0;
ALTER TABLE rendering ADD KEY IF NOT EXISTS rendering_held (workspace_id, size_bytes);
ALTER TABLE rendering ADD KEY IF NOT EXISTS rendering_oldest (workspace_id, used_at);

-- Queues, one for each workspace and each of its stores ('' for work of none), and when each last had its turn.
CREATE TABLE IF NOT EXISTS job_turn (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  turn_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  touched_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (workspace_id, store_id),
  CONSTRAINT job_turn_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id) ON DELETE CASCADE
);
INSERT IGNORE INTO job_turn (workspace_id, store_id)
  SELECT DISTINCT workspace_id, COALESCE(store_id, '') FROM job WHERE state IN ('waiting', 'queued', 'running');
ALTER TABLE job ADD COLUMN IF NOT EXISTS queue_store VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin AS (COALESCE(store_id, '')) PERSISTENT;
ALTER TABLE job ADD KEY IF NOT EXISTS job_queue (state, workspace_id, queue_store, priority, run_after);
