-- By which the same picture is known again (64 bits, of which a few may differ): the number of facts.likeness.
ALTER TABLE artwork ADD COLUMN IF NOT EXISTS likeness BIGINT UNSIGNED NULL;
ALTER TABLE artwork ADD INDEX IF NOT EXISTS artwork_likeness (workspace_id, likeness);
UPDATE artwork SET likeness = CAST(CONV(JSON_VALUE(facts, '$.likeness'), 16, 10) AS UNSIGNED)
WHERE likeness IS NULL AND JSON_VALUE(facts, '$.likeness') IS NOT NULL;

-- Artworks of one workspace that show the same picture, as they were compared when they came in; both ways.
CREATE TABLE IF NOT EXISTS artwork_twin (
  artwork_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  other_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (artwork_id, other_id),
  CONSTRAINT artwork_twin_artwork_fk FOREIGN KEY (artwork_id) REFERENCES artwork (id) ON DELETE CASCADE,
  CONSTRAINT artwork_twin_other_fk FOREIGN KEY (other_id) REFERENCES artwork (id) ON DELETE CASCADE
);
