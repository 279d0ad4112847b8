-- A patch that is sent a second time, because its answer was lost, is known by its key and not applied again; the hash of its
-- operations tells it from another patch under the same key.
ALTER TABLE product_revision ADD COLUMN IF NOT EXISTS patch_key VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE product_revision ADD COLUMN IF NOT EXISTS patch_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE product_revision ADD UNIQUE KEY IF NOT EXISTS product_revision_key (product_id, patch_key);

-- Variants are searched by SKU; their rows are written after a product is saved. Prices of all are worked out where they are shown.
ALTER TABLE product_variant DROP KEY IF EXISTS product_variant_price;
ALTER TABLE product_variant DROP COLUMN IF EXISTS price_minor;
ALTER TABLE product_variant DROP COLUMN IF EXISTS currency;
ALTER TABLE product ADD COLUMN IF NOT EXISTS variants_revision INT NOT NULL DEFAULT 0;
ALTER TABLE product ADD COLUMN IF NOT EXISTS variants_behind BOOLEAN AS (variants_revision < revision) PERSISTENT;
ALTER TABLE product ADD KEY IF NOT EXISTS product_variants_behind (variants_behind, updated_at);

-- Pinned threads are named by their code, no longer by their place in a list: up to six of them.
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\[\\]', '"pinned":{}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"},"\\5":{"order":"a4"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"},"\\5":{"order":"a4"},"\\6":{"order":"a5"}}') WHERE document LIKE '%"pinned":[%';
-- Revisions that speak of the list cannot be gone back through: the history of those products begins after the last of them.
DELETE r FROM product_revision r JOIN (
  SELECT product_id, MAX(revision) AS newest FROM product_revision WHERE patch LIKE '%pinned%' OR undo_patch LIKE '%pinned%' GROUP BY product_id
) old ON old.product_id = r.product_id AND r.revision <= old.newest;

ALTER TABLE event ADD KEY IF NOT EXISTS event_workspace (workspace_id, id);

-- A shop's rate: requests that hold a place in it, and what a shop that asked to wait is still given.
DROP TABLE IF EXISTS store_rate;
CREATE TABLE IF NOT EXISTS store_rate (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  paused_until DATETIME(3) NULL,
  places INT NULL,
  slowed_at DATETIME(3) NULL,
  CONSTRAINT store_rate_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS store_request (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  held_until DATETIME(3) NOT NULL,
  KEY store_request_held (store_id, held_until),
  KEY store_request_age (held_until)
);

-- A listing's attempt to be made is known by its own id and how often it was made; one that is not found is believed gone after a second look.
ALTER TABLE listing ADD COLUMN IF NOT EXISTS generation INT NOT NULL DEFAULT 1;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS missing_since DATETIME(3) NULL;
ALTER TABLE listing_history ADD COLUMN IF NOT EXISTS external_id VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL;

-- One job of a subject runs at a time, and at most one more of a kind waits for it.
ALTER TABLE job ADD COLUMN IF NOT EXISTS subject VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
UPDATE job SET subject = CONCAT('listing:', JSON_VALUE(payload, '$.listingId')) WHERE kind IN ('send-listing', 'check-listing') AND state IN ('done', 'failed', 'cancelled');
ALTER TABLE job ADD COLUMN IF NOT EXISTS running_subject VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin AS (IF(state = 'running', subject, NULL)) PERSISTENT;
ALTER TABLE job ADD COLUMN IF NOT EXISTS waiting_subject VARCHAR(140) CHARACTER SET ascii COLLATE ascii_bin AS (IF(state IN ('waiting', 'queued'), CONCAT(kind, ':', subject), NULL)) PERSISTENT;
ALTER TABLE job ADD UNIQUE KEY IF NOT EXISTS job_running_subject (workspace_id, running_subject);
ALTER TABLE job ADD UNIQUE KEY IF NOT EXISTS job_waiting_subject (workspace_id, waiting_subject);
-- How often its lease ran out in a row without its having come further, and how far it had come then.
ALTER TABLE job ADD COLUMN IF NOT EXISTS lost INT NOT NULL DEFAULT 0;
ALTER TABLE job ADD COLUMN IF NOT EXISTS lost_at_progress INT NOT NULL DEFAULT 0;
ALTER TABLE job ADD KEY IF NOT EXISTS job_ended (state, finished_at);

-- Work that is done from time to time, by whichever worker comes first.
CREATE TABLE IF NOT EXISTS chore (
  name VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  next_at DATETIME(3) NOT NULL,
  fault VARCHAR(300) NULL,
  done_at DATETIME(3) NULL
);

-- Marked before its file goes: a row that is marked may have none.
ALTER TABLE blob_object ADD COLUMN IF NOT EXISTS dropping BOOLEAN NOT NULL DEFAULT FALSE;
-- Jobs are forgotten after a time; what they were about stays.
ALTER TABLE listing DROP FOREIGN KEY IF EXISTS listing_job_fk;
ALTER TABLE listing ADD CONSTRAINT listing_job_fk FOREIGN KEY IF NOT EXISTS (job_id) REFERENCES job (id) ON DELETE SET NULL;
ALTER TABLE job DROP FOREIGN KEY IF EXISTS job_group_fk;
ALTER TABLE job ADD CONSTRAINT job_group_fk FOREIGN KEY IF NOT EXISTS (group_id) REFERENCES job_group (id) ON DELETE SET NULL;
ALTER TABLE listing_history ADD KEY IF NOT EXISTS listing_history_age (at);

ALTER TABLE price_list ADD COLUMN IF NOT EXISTS content_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL;
