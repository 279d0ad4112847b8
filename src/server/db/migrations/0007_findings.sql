-- Artworks that were made out of others, or put in the place of others; warnings that a person accepted.
ALTER TABLE artwork
  ADD COLUMN IF NOT EXISTS derived_from VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  -- JSON: what was done, as the API takes it
  ADD COLUMN IF NOT EXISTS derivation VARCHAR(200) NULL,
  ADD COLUMN IF NOT EXISTS tags VARCHAR(1000) NOT NULL DEFAULT '[]',
  -- JSON: name and size of the artwork in whose place this one was put everywhere
  ADD COLUMN IF NOT EXISTS replaced VARCHAR(500) NULL;

CREATE TABLE IF NOT EXISTS finding_acceptance (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  finding_id VARCHAR(120) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- What was accepted, word for word: when the numbers change it is another thing.
  says VARCHAR(1000) NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  accepted_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (product_id, finding_id),
  CONSTRAINT finding_acceptance_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT finding_acceptance_product_fk FOREIGN KEY (product_id) REFERENCES product (id),
  CONSTRAINT finding_acceptance_person_fk FOREIGN KEY (person_id) REFERENCES person (id)
);
