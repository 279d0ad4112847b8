-- Pictures that are on their way to a shop just now, by whom: listings that show the same one wait for it. One whose worker died is another's after a while.
CREATE TABLE IF NOT EXISTS picture_upload (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  picture_key CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  format_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  held_until DATETIME(3) NOT NULL,
  PRIMARY KEY (store_id, picture_key, format_hash),
  KEY picture_upload_age (held_until),
  CONSTRAINT picture_upload_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);
