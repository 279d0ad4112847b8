-- What of a store's allowed requests each process has: it holds so many places of the shop's second, and hands them out itself. A share that is not
-- renewed is gone after a few seconds.
CREATE TABLE IF NOT EXISTS store_share (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  holder CHAR(22) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  places SMALLINT UNSIGNED NOT NULL,
  -- Of these, how many are taken just now.
  taken SMALLINT UNSIGNED NOT NULL,
  held_until DATETIME(3) NOT NULL,
  PRIMARY KEY (store_id, holder),
  KEY store_share_age (held_until),
  CONSTRAINT store_share_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);
DROP TABLE IF EXISTS store_request;
