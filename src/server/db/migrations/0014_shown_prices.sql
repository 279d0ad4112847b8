-- What each price in each shop was, and since when: a row for each change, kept as long as the product. price_minor NULL: shown no longer.
CREATE TABLE IF NOT EXISTS shown_price (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  price_minor BIGINT NULL,
  compare_at_minor BIGINT NULL,
  currency CHAR(3) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- One or more of the core's PRICE_CAUSES.
  causes SET('first', 'gone', 'sale', 'typed', 'rule', 'file', 'list', 'rate', 'fee', 'settings', 'product') NOT NULL,
  -- Whose edit it was; NULL where nobody edited.
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  shown_at DATETIME(3) NOT NULL,
  KEY shown_price_variant (product_id, store_id, variant_key, id),
  KEY shown_price_product (product_id, id),
  CONSTRAINT shown_price_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE,
  CONSTRAINT shown_price_store_fk FOREIGN KEY (store_id) REFERENCES store (id)
);

-- What the prices that a shop shows were made from, as hashes: what differs the next time is what moved them.
ALTER TABLE listing ADD COLUMN IF NOT EXISTS shown_terms JSON NULL;

-- How a person changed a price: by typing it, by a price rule, or with a file.
ALTER TABLE price_change ADD COLUMN IF NOT EXISTS cause ENUM('typed', 'rule', 'file') NOT NULL DEFAULT 'typed';
