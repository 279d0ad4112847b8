-- A patch that is sent a second time, because its answer was lost, is known by its key and not applied again.
ALTER TABLE product_revision ADD COLUMN IF NOT EXISTS patch_key VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE product_revision ADD UNIQUE KEY IF NOT EXISTS product_revision_key (product_id, patch_key);

-- Variants are searched by SKU; their rows are written after a product is saved. Prices of all are worked out where they are shown.
ALTER TABLE product_variant DROP KEY IF EXISTS product_variant_price;
ALTER TABLE product_variant DROP COLUMN IF EXISTS price_minor;
ALTER TABLE product_variant DROP COLUMN IF EXISTS currency;
ALTER TABLE product ADD COLUMN IF NOT EXISTS variants_revision INT NOT NULL DEFAULT 0;
ALTER TABLE product ADD COLUMN IF NOT EXISTS variants_behind BOOLEAN AS (variants_revision < revision) PERSISTENT;
ALTER TABLE product ADD KEY IF NOT EXISTS product_variants_behind (variants_behind, updated_at);

-- Pinned threads are named by their code, no longer by their place in a list: up to six of them.
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\[\\]', '"pinned":{}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"},"\\5":{"order":"a4"}}') WHERE document LIKE '%"pinned":[%';
UPDATE product SET document = REGEXP_REPLACE(document, '"pinned":\\["([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)","([a-z0-9-]+)"\\]', '"pinned":{"\\1":{"order":"a0"},"\\2":{"order":"a1"},"\\3":{"order":"a2"},"\\4":{"order":"a3"},"\\5":{"order":"a4"},"\\6":{"order":"a5"}}') WHERE document LIKE '%"pinned":[%';
-- Revisions that speak of the list cannot be gone back through: the history of those products begins after the last of them.
DELETE r FROM product_revision r JOIN (
  SELECT product_id, MAX(revision) AS newest FROM product_revision WHERE patch LIKE '%pinned%' OR undo_patch LIKE '%pinned%' GROUP BY product_id
) old ON old.product_id = r.product_id AND r.revision <= old.newest;

ALTER TABLE event ADD KEY IF NOT EXISTS event_workspace (workspace_id, id);
