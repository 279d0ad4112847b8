-- Everything that was done and noticed, for a person to read: in shops, to products, prices, artwork, stores, sends, sales and money. What was kept of listings
-- alone becomes part of it. `by_name`: who did it or asked for it, as they were called then; null for what happened without anybody asking.
CREATE TABLE IF NOT EXISTS activity (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  about ENUM('listing', 'product', 'prices', 'artwork', 'store', 'send', 'sale', 'money') NOT NULL,
  what VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  says VARCHAR(1000) NOT NULL,
  by_name VARCHAR(160) NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  listing_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  external_id VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NULL,
  -- JSON: kinds of fields that went.
  fields VARCHAR(200) NULL,
  -- What is done over and over within an hour is one line: how often.
  times INT UNSIGNED NOT NULL DEFAULT 1,
  once CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  UNIQUE KEY activity_once (once),
  KEY activity_workspace (workspace_id, at, id),
  KEY activity_store (workspace_id, store_id, at, id),
  KEY activity_product (workspace_id, product_id, at, id),
  KEY activity_about (workspace_id, about, at, id),
  KEY activity_person (workspace_id, by_name, at, id),
  KEY activity_listing (listing_id, id),
  KEY activity_age (at)
);
-- One that was cut off after the table was dropped begins again.
CREATE TABLE IF NOT EXISTS listing_history (
  id BIGINT UNSIGNED PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin,
  listing_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin,
  what VARCHAR(40) CHARACTER SET ascii,
  says VARCHAR(1000),
  at DATETIME(3),
  external_id VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin,
  by_name VARCHAR(160),
  fields VARCHAR(200)
);
INSERT INTO activity (workspace_id, at, about, what, says, by_name, product_id, store_id, listing_id, external_id, fields)
  SELECT h.workspace_id, h.at, 'listing', h.what, h.says, h.by_name, l.product_id, l.store_id, h.listing_id, h.external_id, h.fields
  FROM listing_history h JOIN listing l ON l.id = h.listing_id WHERE NOT EXISTS (SELECT 1 FROM activity) ORDER BY h.id;
DROP TABLE IF EXISTS listing_history;
