-- What happens to a listing changes what is known of that store alone: '' stands for all stores.
ALTER TABLE judge_due ADD COLUMN IF NOT EXISTS store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '' AFTER product_id;
