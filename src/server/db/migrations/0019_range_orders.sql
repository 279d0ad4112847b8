-- The range in the orders that it can stand in, a page at a time.
ALTER TABLE product ADD INDEX IF NOT EXISTS product_made (workspace_id, created_at, id);
ALTER TABLE product ADD INDEX IF NOT EXISTS product_title (workspace_id, title(120), id);
