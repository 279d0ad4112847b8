-- Losses are accepted one by one, by variant and destination. What was accepted in words alone covered deeper ones too: it is open again.
ALTER TABLE finding_acceptance ADD COLUMN IF NOT EXISTS losses JSON NULL;
DELETE FROM finding_acceptance WHERE finding_id LIKE 'floor:%' AND losses IS NULL;

-- Countries to which a product is not sold are a longer value than an aim.
ALTER TABLE price_change MODIFY was VARCHAR(1200) NULL, MODIFY now VARCHAR(1200) NULL;

-- What stores take, as the seller knows it: each edit is a row, the newest of a store counts, else the newest of its channel (store_id ''); NULL gives
-- back to what lies under it. Days of the fees themselves decide which of them are taken.
CREATE TABLE IF NOT EXISTS fee_list (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  channel VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  fees JSON NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  noted_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY fee_list_newest (workspace_id, channel, store_id, id),
  CONSTRAINT fee_list_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT fee_list_person_fk FOREIGN KEY (person_id) REFERENCES person (id)
);

-- A list that was taken and taken back again stays for the record.
ALTER TABLE price_list MODIFY state ENUM('reading', 'ready', 'faulty', 'taken', 'dropped', 'undone') NOT NULL DEFAULT 'taken';

-- Sales: what is taken off of which products in which stores, from when to when. planned and running follow the clock; stopped by hand.
CREATE TABLE IF NOT EXISTS sale (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(80) NOT NULL,
  terms JSON NOT NULL,
  scope JSON NOT NULL,
  starts_at DATETIME(3) NOT NULL,
  ends_at DATETIME(3) NOT NULL,
  state ENUM('planned', 'running', 'ended', 'stopped') NOT NULL DEFAULT 'planned',
  -- What became of its listings when it began and when it ended.
  report JSON NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY sale_clock (state, starts_at),
  KEY sale_end (state, ends_at),
  KEY sale_workspace (workspace_id, created_at),
  CONSTRAINT sale_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT sale_person_fk FOREIGN KEY (person_id) REFERENCES person (id)
);

-- Prices of many products that were changed in one step, and what takes each of them back.
CREATE TABLE IF NOT EXISTS price_batch (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  label VARCHAR(120) NOT NULL,
  products INT NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  undone_at DATETIME(3) NULL,
  KEY price_batch_workspace (workspace_id, made_at),
  CONSTRAINT price_batch_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT price_batch_person_fk FOREIGN KEY (person_id) REFERENCES person (id)
);
CREATE TABLE IF NOT EXISTS price_batch_product (
  batch_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- Prices of the document before and after, as JSON.
  was LONGTEXT NOT NULL,
  now LONGTEXT NOT NULL,
  PRIMARY KEY (batch_id, product_id),
  CONSTRAINT price_batch_product_batch_fk FOREIGN KEY (batch_id) REFERENCES price_batch (id) ON DELETE CASCADE,
  CONSTRAINT price_batch_product_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);
