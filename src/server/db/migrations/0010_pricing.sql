-- What holds for all prices of a workspace: safety margin on rates, taxes, discounts, where it sells (JSON, core/pricing/settings.ts).
CREATE TABLE IF NOT EXISTS money_setting (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  settings JSON NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3),
  CONSTRAINT money_setting_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

-- Ways of pricing that are kept by name; one of them can be for all new products.
CREATE TABLE IF NOT EXISTS price_rule (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(80) NOT NULL,
  -- JSON: core/pricing/rule.ts
  rule JSON NOT NULL,
  for_new BOOLEAN NOT NULL DEFAULT FALSE,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY price_rule_name (workspace_id, name),
  CONSTRAINT price_rule_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

-- Who fixed which price, and when; written with the revision that did it. store_id NULL: for all stores. variant_key '*': for all variants.
CREATE TABLE IF NOT EXISTS price_change (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  revision INT NOT NULL,
  store_id VARCHAR(40) CHARACTER SET ascii COLLATE ascii_bin NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- What of the plan: aim, ending, shipping …; JSON values, NULL for none.
  what VARCHAR(20) CHARACTER SET ascii NOT NULL,
  was VARCHAR(200) NULL,
  now VARCHAR(200) NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY price_change_product (product_id, id),
  CONSTRAINT price_change_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);

-- SKUs that a shop has seen: from then on they do not change, whatever pattern or name is chosen.
CREATE TABLE IF NOT EXISTS sent_sku (
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  sku VARCHAR(64) NOT NULL,
  sent_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (product_id, variant_key),
  CONSTRAINT sent_sku_product_fk FOREIGN KEY (product_id) REFERENCES product (id) ON DELETE CASCADE
);
