-- Until when it is believed that what a shop does not find was deleted there, however much it is at once: a person said so.
ALTER TABLE store ADD COLUMN IF NOT EXISTS believe_missing_until DATETIME(3) NULL;
ALTER TABLE listing ADD KEY IF NOT EXISTS listing_missing (store_id, missing_since);

-- What the range shows and is filtered by, written when a product is judged (docs/decisions/0039).
ALTER TABLE listing_outcome ADD COLUMN IF NOT EXISTS left_minor INT NULL;
ALTER TABLE listing_outcome ADD COLUMN IF NOT EXISTS left_ppm INT NULL;
ALTER TABLE listing_outcome ADD COLUMN IF NOT EXISTS under_floor BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE listing_outcome ADD COLUMN IF NOT EXISTS first_says VARCHAR(300) NULL;
-- By state, margin and floor, without the rows themselves.
ALTER TABLE listing_outcome ADD KEY IF NOT EXISTS listing_outcome_state (workspace_id, state, product_id, store_id, number);
ALTER TABLE listing_outcome ADD KEY IF NOT EXISTS listing_outcome_in (workspace_id, store_id, state, product_id, number, left_ppm, under_floor);
ALTER TABLE listing_outcome DROP KEY IF EXISTS listing_outcome_store;
ALTER TABLE listing_outcome ADD KEY IF NOT EXISTS listing_outcome_left (workspace_id, left_ppm, product_id);
ALTER TABLE listing_outcome ADD KEY IF NOT EXISTS listing_outcome_floor (workspace_id, under_floor, product_id);

CREATE TABLE IF NOT EXISTS outcome_rule (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  number TINYINT UNSIGNED NOT NULL,
  rule_id VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (product_id, store_id, number, rule_id),
  KEY outcome_rule_found (workspace_id, rule_id, product_id)
);

CREATE TABLE IF NOT EXISTS product_facts (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  revision INT NOT NULL,
  variants SMALLINT UNSIGNED NOT NULL,
  -- JSON: what of its variants ended or is out of stock.
  troubles VARCHAR(2000) NOT NULL,
  -- What its picture shows; null: it has none.
  shot_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  color VARCHAR(40) NULL,
  -- What the checks say of its design and nobody accepted: how many, and the worst.
  findings SMALLINT UNSIGNED NOT NULL,
  finding ENUM('stop', 'warn', 'note') NULL,
  finding_says VARCHAR(300) NULL,
  KEY product_facts_workspace (workspace_id, finding, product_id),
  CONSTRAINT product_facts_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

CREATE TABLE IF NOT EXISTS product_finding (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  finding VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (product_id, finding),
  KEY product_finding_found (workspace_id, finding, product_id),
  CONSTRAINT product_finding_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

-- Tags of the artwork that is on a product.
CREATE TABLE IF NOT EXISTS product_tag (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  tag VARCHAR(80) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (product_id, tag),
  KEY product_tag_found (workspace_id, tag, product_id),
  CONSTRAINT product_tag_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

-- Each order of the range is read off a key, and what it counts by blank.
ALTER TABLE product ADD KEY IF NOT EXISTS product_range_changed (workspace_id, archived_at, updated_at);
ALTER TABLE product ADD KEY IF NOT EXISTS product_range_made (workspace_id, archived_at, created_at);
ALTER TABLE product ADD KEY IF NOT EXISTS product_range_title (workspace_id, archived_at, title);
ALTER TABLE product ADD KEY IF NOT EXISTS product_range_blank (workspace_id, archived_at, blank_id, updated_at);

-- Every product is judged again, so that these are filled in.
INSERT INTO judge_due (product_id, workspace_id) SELECT id, workspace_id FROM product WHERE archived_at IS NULL ON DUPLICATE KEY UPDATE asked = asked + 1, store_id = '';

ALTER TABLE named_set MODIFY COLUMN kind ENUM('blank-filter', 'colors', 'shots', 'range-view') NOT NULL;

-- Changes of many products at once: what each would do is looked at first, product by product, and what was done can be undone where that is possible.
CREATE TABLE IF NOT EXISTS range_change (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
  -- JSON: what is asked of it.
  asked TEXT NOT NULL,
  title VARCHAR(200) NOT NULL,
  state ENUM('looking', 'planned', 'doing', 'done', 'undoing', 'undone') NOT NULL DEFAULT 'looking',
  job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY range_change_workspace (workspace_id, made_at),
  KEY range_change_age (made_at),
  CONSTRAINT range_change_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

CREATE TABLE IF NOT EXISTS range_change_item (
  change_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- One store, or none: the product itself, in all of them.
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  -- new: not looked at yet; change: would be changed; same: is so already; left: cannot be, or was not; done; undone; kept: done, and could not be undone.
  what ENUM('new', 'change', 'same', 'left', 'done', 'undone', 'kept') NOT NULL DEFAULT 'new',
  says VARCHAR(400) NULL,
  -- JSON: prices before and after, store by store.
  prices TEXT NULL,
  -- JSON: the part that was changed, as it was and as it was made; and the product that was made.
  was MEDIUMTEXT NULL,
  made MEDIUMTEXT NULL,
  PRIMARY KEY (change_id, product_id, store_id),
  KEY range_change_item_what (change_id, what, product_id),
  CONSTRAINT range_change_item_fk FOREIGN KEY (change_id) REFERENCES range_change (id) ON DELETE CASCADE
);
