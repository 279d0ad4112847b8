-- Pictures: heathered colors, photographs and shots of a seller's own, and which pictures of a product were shown last.
ALTER TABLE blank_option_value ADD COLUMN IF NOT EXISTS heather TINYINT(1) NOT NULL DEFAULT 0;

ALTER TABLE artwork
  -- A photograph is taken in as artwork is, and is no artwork: it is for pictures.
  ADD COLUMN IF NOT EXISTS purpose ENUM('artwork', 'photograph') NOT NULL DEFAULT 'artwork';

ALTER TABLE shot
  -- Null: a shot of the catalog, for all.
  ADD COLUMN IF NOT EXISTS workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  ADD COLUMN IF NOT EXISTS photograph_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  -- JSON: area, variant, marks and what takes the fabric's color, as the API takes them
  ADD COLUMN IF NOT EXISTS marked MEDIUMTEXT NULL,
  ADD CONSTRAINT shot_workspace_fk FOREIGN KEY IF NOT EXISTS (workspace_id) REFERENCES workspace (id),
  ADD CONSTRAINT shot_photograph_fk FOREIGN KEY IF NOT EXISTS (photograph_id) REFERENCES artwork (id);

ALTER TABLE rendering
  -- How alike pictures are: a difference hash, and the mean color of the middle.
  ADD COLUMN IF NOT EXISTS likeness CHAR(16) CHARACTER SET ascii NULL,
  ADD COLUMN IF NOT EXISTS tint CHAR(7) CHARACTER SET ascii NULL;

-- The picture that is in view of each shot and color of a product: when the design has changed, the old one until the new one is made.
CREATE TABLE IF NOT EXISTS product_picture (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- shot and color, or photograph
  slot VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  render_key CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (product_id, slot),
  CONSTRAINT product_picture_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT product_picture_product_fk FOREIGN KEY (product_id) REFERENCES product (id),
  CONSTRAINT product_picture_blob_fk FOREIGN KEY (sha256) REFERENCES blob_object (sha256)
);
