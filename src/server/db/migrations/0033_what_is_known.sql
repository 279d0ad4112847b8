-- What is known of each listing, and how it was learnt: when it was last seen and how, the shop's own sign of that state, how it was last wanted on sale,
-- when it was found deleted there, and when it is read again without being asked (the higher the level, the rarer).
ALTER TABLE listing ADD COLUMN IF NOT EXISTS there_stamp VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS seen_how ENUM('sent', 'told', 'since', 'reading', 'asked') NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS wanted_visibility ENUM('draft', 'live') NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS gone_at DATETIME(3) NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS read_level TINYINT UNSIGNED NOT NULL DEFAULT 4;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS read_due_at DATETIME(3) NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS read_how ENUM('since', 'reading') NOT NULL DEFAULT 'reading';
ALTER TABLE listing ADD KEY IF NOT EXISTS listing_reading (store_id, read_how, read_level, read_due_at);
ALTER TABLE listing ADD KEY IF NOT EXISTS listing_there (store_id, external_id);
-- What is in a shop already is read in the next hours, not all at once.
UPDATE listing SET wanted_visibility = visibility WHERE external_id IS NOT NULL AND wanted_visibility IS NULL AND NOT hidden_by_pause;
UPDATE listing SET read_due_at = UTC_TIMESTAMP(3) + INTERVAL MOD(CRC32(id), 14400) SECOND WHERE external_id IS NOT NULL AND read_due_at IS NULL;

-- What a shop was seen to show of a listing beside what both sides agreed on: each state once.
CREATE TABLE IF NOT EXISTS listing_sighting (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  listing_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  external_id VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
  form_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  visibility ENUM('draft', 'live') NOT NULL,
  form LONGTEXT NOT NULL,
  how ENUM('sent', 'told', 'since', 'reading', 'asked') NOT NULL,
  seen_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  last_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY listing_sighting_once (listing_id, form_hash, visibility),
  KEY listing_sighting_age (last_at),
  CONSTRAINT listing_sighting_fk FOREIGN KEY (listing_id) REFERENCES listing (id) ON DELETE CASCADE
);

-- When it was last looked what there is to do in a store, and from which mark on its shop is asked what changed; `page`: within what changed at that mark.
CREATE TABLE IF NOT EXISTS store_watch (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  mark VARCHAR(100) CHARACTER SET ascii COLLATE ascii_bin NULL,
  page VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NULL,
  looked_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  asked_at DATETIME(3) NULL,
  CONSTRAINT store_watch_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);
