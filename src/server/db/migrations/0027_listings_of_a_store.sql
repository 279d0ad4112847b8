-- A product can have several listings in a store, each with a group of its colors: they are told apart by number, from 1 on.
ALTER TABLE listing ADD COLUMN IF NOT EXISTS number TINYINT UNSIGNED NOT NULL DEFAULT 1;
ALTER TABLE listing ADD UNIQUE KEY IF NOT EXISTS listing_product_store_number (product_id, store_id, number);
ALTER TABLE listing DROP KEY IF EXISTS listing_product_store;

ALTER TABLE listing_outcome ADD COLUMN IF NOT EXISTS number TINYINT UNSIGNED NOT NULL DEFAULT 1;
ALTER TABLE listing_outcome DROP PRIMARY KEY, ADD PRIMARY KEY (product_id, store_id, number);

ALTER TABLE send_item ADD COLUMN IF NOT EXISTS number TINYINT UNSIGNED NOT NULL DEFAULT 1;
ALTER TABLE send_item DROP PRIMARY KEY, ADD PRIMARY KEY (send_id, product_id, store_id, number);
