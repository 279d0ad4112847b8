-- What blanks are browsed and compared by, partners' own SKUs, and price lists that a seller reads in from a file.
ALTER TABLE blank
  ADD COLUMN IF NOT EXISTS material VARCHAR(60) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS ships_from CHAR(2) CHARACTER SET ascii NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS size_guide JSON NULL;

-- The piece of a gift set that an option is a choice of; NULL for an option of the whole blank.
ALTER TABLE blank_option ADD COLUMN IF NOT EXISTS piece_code VARCHAR(30) CHARACTER SET ascii NULL;

-- partner_id repeats the blank's, so that a partner's SKU can be unique and be looked up without a join.
ALTER TABLE blank_variant
  ADD COLUMN IF NOT EXISTS partner_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS sku VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD UNIQUE KEY IF NOT EXISTS blank_variant_sku (partner_id, sku);

-- reading: a job reads the file; ready: read without faults, waits for the seller; faulty: cannot be taken; taken: in force from valid_from; dropped.
ALTER TABLE price_list
  ADD COLUMN IF NOT EXISTS state ENUM('reading', 'ready', 'faulty', 'taken', 'dropped') NOT NULL DEFAULT 'taken',
  ADD COLUMN IF NOT EXISTS base_list_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS file_name VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS file_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS report JSON NULL,
  ADD COLUMN IF NOT EXISTS taken_at DATETIME(3) NULL,
  ADD KEY IF NOT EXISTS price_list_workspace (workspace_id, created_at);

ALTER TABLE price_list ADD CONSTRAINT price_list_file_fk FOREIGN KEY IF NOT EXISTS (file_sha256) REFERENCES blob_object (sha256);

-- stock NULL: as the catalog says. ended: the partner no longer makes it, for whoever this list is in force.
ALTER TABLE price_list_variant
  ADD COLUMN IF NOT EXISTS stock INT NULL,
  ADD COLUMN IF NOT EXISTS ended BOOLEAN NOT NULL DEFAULT FALSE;

-- Charged whenever the area is printed, whatever else is: embroidery, for example.
ALTER TABLE price_list_area ADD COLUMN IF NOT EXISTS technique_minor BIGINT NOT NULL DEFAULT 0;

CREATE TABLE IF NOT EXISTS price_list_insert (
  price_list_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  cost_minor BIGINT NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (price_list_id, code),
  CONSTRAINT price_list_insert_list_fk FOREIGN KEY (price_list_id) REFERENCES price_list (id)
);

-- Raised with every change of the shared catalog: what is kept in memory of it is known to be old by this.
CREATE TABLE IF NOT EXISTS catalog_version (
  id TINYINT PRIMARY KEY,
  version BIGINT NOT NULL
);
INSERT IGNORE INTO catalog_version (id, version) VALUES (1, 0);
