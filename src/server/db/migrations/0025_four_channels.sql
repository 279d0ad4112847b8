-- The seller's own name for a store; the shop's is kept beside it. A region where the channel has some, the day on which keys end, and why a store is not well.
ALTER TABLE store ADD COLUMN IF NOT EXISTS shop_name VARCHAR(160) NOT NULL DEFAULT '';
UPDATE store SET shop_name = name WHERE shop_name = '';
ALTER TABLE store ADD COLUMN IF NOT EXISTS region VARCHAR(20) CHARACTER SET ascii NULL;
ALTER TABLE store ADD COLUMN IF NOT EXISTS keys_end_at DATETIME(3) NULL;
ALTER TABLE store ADD COLUMN IF NOT EXISTS trouble VARCHAR(400) NULL;
ALTER TABLE store ADD COLUMN IF NOT EXISTS read_at DATETIME(3) NULL;
-- What the shop itself was last seen to have: its places and what they ask, warehouses, exemptions.
ALTER TABLE store ADD COLUMN IF NOT EXISTS shop_facts LONGTEXT NULL;

ALTER TABLE connect_attempt ADD COLUMN IF NOT EXISTS region VARCHAR(20) CHARACTER SET ascii NULL;

-- Pictures that a shop holds, by their content and the form in which they went: whichever listing shows them, each goes once.
CREATE TABLE IF NOT EXISTS store_picture (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  picture_key CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  format_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  remote_id VARCHAR(120) NOT NULL,
  sent_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (store_id, picture_key, format_hash),
  CONSTRAINT store_picture_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);

-- Rows that go to a shop in files. A row stands here from when its listing is ready until its answer is taken: ready, sent (in a file of that
-- ticket), lost (the file's answer never came: it is not known whether the shop has it), answered.
CREATE TABLE IF NOT EXISTS batch_row (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  listing_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  content LONGTEXT NOT NULL,
  state ENUM('ready', 'sent', 'lost', 'answered') NOT NULL DEFAULT 'ready',
  ticket VARCHAR(120) NULL,
  sent_at DATETIME(3) NULL,
  outcome LONGTEXT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY batch_row_listing (listing_id),
  KEY batch_row_store (store_id, state, id),
  CONSTRAINT batch_row_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE,
  CONSTRAINT batch_row_listing_fk FOREIGN KEY (listing_id) REFERENCES listing (id) ON DELETE CASCADE
);

-- Where a shop tells its changes to: what their signatures are checked with, sealed, and which messages came already.
CREATE TABLE IF NOT EXISTS store_hook (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  address_key CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sealed VARBINARY(512) NOT NULL,
  UNIQUE KEY store_hook_address (address_key),
  CONSTRAINT store_hook_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS hook_message (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  message_id VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  came_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (store_id, message_id),
  KEY hook_message_age (came_at),
  CONSTRAINT hook_message_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);

-- When a live listing ends by the shop's clock, and pictures that the shop took and then refused.
-- What the shop showed right after it took what was sent: how it keeps that, and not somebody's change.
ALTER TABLE listing ADD COLUMN IF NOT EXISTS settled_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL;
-- The pictures of what was sent last; `picture_ids` are those of what both sides agreed on, until they agree on the next.
ALTER TABLE listing ADD COLUMN IF NOT EXISTS sent_picture_ids LONGTEXT NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS ends_at DATETIME(3) NULL;
ALTER TABLE listing ADD COLUMN IF NOT EXISTS refused_pictures LONGTEXT NULL;

-- When the last file of rows went: a shop takes one each so often.
ALTER TABLE store_rate ADD COLUMN IF NOT EXISTS file_at DATETIME(3) NULL;
