-- Small pictures of bare blanks from the catalog's shots, for lists: the same for all workspaces, made before anybody asks.
CREATE TABLE IF NOT EXISTS blank_thumbnail (
  shot_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- Color of the blank; '' for one without colors.
  color VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  content_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (shot_id, color),
  CONSTRAINT blank_thumbnail_shot_fk FOREIGN KEY (shot_id) REFERENCES shot (id) ON DELETE CASCADE,
  CONSTRAINT blank_thumbnail_blob_fk FOREIGN KEY (sha256) REFERENCES blob_object (sha256)
);
