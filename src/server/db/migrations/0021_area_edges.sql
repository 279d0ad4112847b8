-- What the left and right edge of an area that goes around its good lie at; null for one that does not.
ALTER TABLE area ADD COLUMN IF NOT EXISTS edges VARCHAR(10) CHARACTER SET ascii NULL;
