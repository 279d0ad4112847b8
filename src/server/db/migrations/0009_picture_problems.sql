-- Why a picture could not be made: said on its tile until it is made, or is another one.
CREATE TABLE IF NOT EXISTS picture_problem (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- shot and color, or photograph
  slot VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  render_key CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  says TEXT NOT NULL,
  PRIMARY KEY (product_id, slot),
  CONSTRAINT picture_problem_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT picture_problem_product_fk FOREIGN KEY (product_id) REFERENCES product (id)
);
