CREATE TABLE IF NOT EXISTS artwork (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(200) NOT NULL,
  -- ingesting: taken in, not yet looked at; ready; refused: with the reason in refusal
  state ENUM('ingesting', 'ready', 'refused') NOT NULL,
  original_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- What is printed from: the original, or an SVG's sanitized form.
  source_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  preview_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  thumbnail_sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  facts JSON NULL,
  refusal JSON NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY artwork_workspace (workspace_id, created_at),
  CONSTRAINT artwork_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT artwork_original_fk FOREIGN KEY (original_sha256) REFERENCES blob_object (sha256),
  CONSTRAINT artwork_source_fk FOREIGN KEY (source_sha256) REFERENCES blob_object (sha256),
  CONSTRAINT artwork_preview_fk FOREIGN KEY (preview_sha256) REFERENCES blob_object (sha256),
  CONSTRAINT artwork_thumbnail_fk FOREIGN KEY (thumbnail_sha256) REFERENCES blob_object (sha256)
);

CREATE TABLE IF NOT EXISTS product (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  title VARCHAR(500) NOT NULL,
  revision INT NOT NULL,
  document JSON NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  updated_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  archived_at DATETIME(3) NULL,
  KEY product_workspace (workspace_id, updated_at),
  CONSTRAINT product_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT product_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id)
);

-- Forward and backward patches; older rows are merged: such a row spans first_revision to revision.
CREATE TABLE IF NOT EXISTS product_revision (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  revision INT NOT NULL,
  first_revision INT NOT NULL,
  patch LONGTEXT NOT NULL,
  undo_patch LONGTEXT NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  label VARCHAR(120) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (product_id, revision),
  CONSTRAINT product_revision_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

-- For searching: what the document says, kept with it in the same transaction.
CREATE TABLE IF NOT EXISTS product_variant (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sku VARCHAR(64) NOT NULL,
  price_minor BIGINT NULL,
  currency CHAR(3) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (product_id, variant_key),
  KEY product_variant_sku (workspace_id, sku),
  KEY product_variant_price (workspace_id, price_minor),
  CONSTRAINT product_variant_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

CREATE TABLE IF NOT EXISTS product_artwork (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  artwork_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (product_id, artwork_id),
  KEY product_artwork_artwork (artwork_id),
  CONSTRAINT product_artwork_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE,
  CONSTRAINT product_artwork_artwork_fk FOREIGN KEY (artwork_id) REFERENCES artwork (id)
);

-- Pictures and print files by the hash of everything they are made from.
CREATE TABLE IF NOT EXISTS rendering (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  render_key CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind ENUM('mock-up', 'print-file') NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  width_px INT NOT NULL,
  height_px INT NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  used_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (workspace_id, render_key),
  KEY rendering_used (used_at),
  CONSTRAINT rendering_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT rendering_blob_fk FOREIGN KEY (sha256) REFERENCES blob_object (sha256)
);
