-- A sale with a code changes no price: buyers type the code. NULL: a sale.
ALTER TABLE sale ADD COLUMN IF NOT EXISTS code VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE sale ADD COLUMN IF NOT EXISTS losses_accepted BOOLEAN NOT NULL DEFAULT FALSE;
