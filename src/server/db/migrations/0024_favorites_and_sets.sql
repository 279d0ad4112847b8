-- Blanks that a workspace has marked.
CREATE TABLE IF NOT EXISTS favorite_blank (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (workspace_id, blank_id),
  CONSTRAINT favorite_blank_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT favorite_blank_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id) ON DELETE CASCADE
);
-- Blanks that products are on.
ALTER TABLE product ADD INDEX IF NOT EXISTS product_blank (workspace_id, blank_id, deleted_at);

-- What a workspace keeps under a name to use again: filters of blanks, sets of colors, orders of shots.
CREATE TABLE IF NOT EXISTS named_set (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind ENUM('blank-filter', 'colors', 'shots') NOT NULL,
  name VARCHAR(60) NOT NULL,
  content JSON NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY named_set_name (workspace_id, kind, name),
  CONSTRAINT named_set_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

-- Deleted artwork can be brought back for a while.
ALTER TABLE artwork ADD COLUMN IF NOT EXISTS deleted_at DATETIME(3) NULL;
ALTER TABLE artwork ADD INDEX IF NOT EXISTS artwork_deleted (deleted_at);

-- Revisions that one job made, to undo them together: their patches have its id as their key.
ALTER TABLE product_revision ADD INDEX IF NOT EXISTS product_revision_patch_key (patch_key, product_id);
