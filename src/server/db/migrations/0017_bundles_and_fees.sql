-- A variant in a bundle has a key of its own: the variant's, and the bundle's at its end.
ALTER TABLE sent_sku MODIFY COLUMN variant_key VARCHAR(240) CHARACTER SET ascii COLLATE ascii_bin NOT NULL;
ALTER TABLE shown_price MODIFY COLUMN variant_key VARCHAR(240) CHARACTER SET ascii COLLATE ascii_bin NOT NULL;
ALTER TABLE price_change MODIFY COLUMN variant_key VARCHAR(240) CHARACTER SET ascii COLLATE ascii_bin NOT NULL;

-- Sums of fees are in the currency of the store for which they were typed; a list for a whole channel holds for its stores in that currency. '': any.
ALTER TABLE fee_list ADD COLUMN IF NOT EXISTS currency CHAR(3) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '';
