-- A deleted product is kept for a while, so that it can be brought back; `archived_at` is set with it: it is nowhere among the others.
ALTER TABLE product ADD COLUMN IF NOT EXISTS deleted_at DATETIME(3) NULL;
ALTER TABLE product ADD INDEX IF NOT EXISTS product_deleted (deleted_at);
ALTER TABLE product ADD INDEX IF NOT EXISTS product_archived (workspace_id, archived_at);
