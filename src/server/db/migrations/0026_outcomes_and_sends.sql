-- What came of a channel's rules for a product in a store, and where it stands there when nothing is on its way. Written by the judge alone
-- (docs/decisions/0030); pages read it. No keys to other tables: whoever changes a product holds its row and marks it here in the same transaction.
CREATE TABLE IF NOT EXISTS listing_outcome (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  state ENUM('not-listed', 'in-step', 'ahead', 'behind', 'split', 'refused') NOT NULL,
  here_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  broken SMALLINT UNSIGNED NOT NULL,
  -- JSON: the broken rules; and the kinds of fields that changed here since both sides agreed.
  rules LONGTEXT NOT NULL,
  changed VARCHAR(200) NOT NULL DEFAULT '[]',
  variants SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  low_minor INT UNSIGNED NULL,
  high_minor INT UNSIGNED NULL,
  judged_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (product_id, store_id),
  KEY listing_outcome_store (workspace_id, store_id, state),
  KEY listing_outcome_age (judged_at)
);

-- Products whose outcomes may be old: marked in the transaction that changes anything they depend on. `asked` counts the marks.
CREATE TABLE IF NOT EXISTS judge_due (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  asked INT UNSIGNED NOT NULL DEFAULT 1,
  lease_token CHAR(22) CHARACTER SET ascii COLLATE ascii_bin NULL,
  lease_until DATETIME(3) NULL,
  KEY judge_due_workspace (workspace_id, lease_until)
);
INSERT IGNORE INTO judge_due (product_id, workspace_id) SELECT id, workspace_id FROM product;

-- Products that are sold together with another one.
CREATE TABLE IF NOT EXISTS product_companion (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  companion_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (product_id, companion_id),
  KEY product_companion_of (companion_id),
  CONSTRAINT product_companion_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);
INSERT IGNORE INTO product_companion (product_id, companion_id)
  SELECT p.id, c.id FROM product p JOIN JSON_TABLE(COALESCE(JSON_EXTRACT(p.document, '$.bundles.entries.*.items.*.productId'), '[]'),
    '$[*]' COLUMNS (id VARCHAR(24) PATH '$')) c WHERE c.id IS NOT NULL;

-- Many listings that are sent together: looked at first (planned), then begun, now or at a moment to come.
CREATE TABLE IF NOT EXISTS send (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  group_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  visibility ENUM('draft', 'live', 'as-is') NOT NULL,
  state ENUM('planned', 'begun', 'laid', 'stopped') NOT NULL DEFAULT 'planned',
  paused BOOLEAN NOT NULL DEFAULT FALSE,
  starts_at DATETIME(3) NULL,
  begun_at DATETIME(3) NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY send_workspace (workspace_id, made_at),
  KEY send_group (group_id),
  KEY send_age (made_at)
);
-- One listing of a send: what is to be done about it and why not. `looked`: for the plan, `laid`: when it was begun.
CREATE TABLE IF NOT EXISTS send_item (
  send_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  what ENUM('new', 'changed', 'shown', 'unchanged', 'stopped', 'busy') NULL,
  changed VARCHAR(200) NOT NULL DEFAULT '[]',
  -- Whether it goes on sale that was not: shops take a fee for that.
  goes_live BOOLEAN NOT NULL DEFAULT FALSE,
  reason VARCHAR(500) NULL,
  laid BOOLEAN NOT NULL DEFAULT FALSE,
  -- Its fixes were taken: what is still broken then has none.
  fix_tried BOOLEAN NOT NULL DEFAULT FALSE,
  job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  PRIMARY KEY (send_id, product_id, store_id),
  KEY send_item_what (send_id, what),
  CONSTRAINT send_item_fk FOREIGN KEY (send_id) REFERENCES send (id) ON DELETE CASCADE
);

-- A job that is held waits, whatever its time, until it is let go.
ALTER TABLE job ADD COLUMN IF NOT EXISTS held BOOLEAN NOT NULL DEFAULT FALSE;

-- Who did what is in a listing's history, and which kinds of fields went.
ALTER TABLE listing_history ADD COLUMN IF NOT EXISTS by_name VARCHAR(160) NULL;
ALTER TABLE listing_history ADD COLUMN IF NOT EXISTS fields VARCHAR(200) NULL;

-- Since when a store is paused, and which of its listings that took off sale: they are shown again with it.
ALTER TABLE store ADD COLUMN IF NOT EXISTS paused_at DATETIME(3) NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS hidden_by_pause BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE listing ADD KEY IF NOT EXISTS listing_ends (ends_at);
