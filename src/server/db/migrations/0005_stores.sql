CREATE TABLE IF NOT EXISTS store (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  channel VARCHAR(40) CHARACTER SET ascii NOT NULL,
  name VARCHAR(160) NOT NULL,
  shop_id VARCHAR(80) NOT NULL,
  shop_url VARCHAR(400) NOT NULL,
  currency CHAR(3) CHARACTER SET ascii NOT NULL,
  -- connected; lapsed: the shop no longer takes our token; disconnected: by the seller
  state ENUM('connected', 'lapsed', 'disconnected') NOT NULL,
  settings JSON NOT NULL,
  connected_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY store_shop (workspace_id, channel, shop_id),
  CONSTRAINT store_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

-- Sealed with AES-256-GCM under the key in TYPICA_HOME; the store's id is bound in as additional data.
CREATE TABLE IF NOT EXISTS store_secret (
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  sealed VARBINARY(4096) NOT NULL,
  CONSTRAINT store_secret_store_fk FOREIGN KEY (store_id) REFERENCES store (id) ON DELETE CASCADE
);

-- A consent that is under way: who asked, and the PKCE verifier, sealed.
CREATE TABLE IF NOT EXISTS connect_attempt (
  state_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  channel VARCHAR(40) CHARACTER SET ascii NOT NULL,
  sealed_verifier VARBINARY(512) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  CONSTRAINT connect_attempt_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

CREATE TABLE IF NOT EXISTS listing (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  product_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  store_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  -- The shop's own id and address once it has taken the listing.
  external_id VARCHAR(120) NULL,
  url VARCHAR(400) NULL,
  visibility ENUM('draft', 'live') NOT NULL DEFAULT 'draft',
  -- RFC 8785 texts and their hashes: the last form both sides agreed on, and the shop's as last seen.
  agreed_form LONGTEXT NULL,
  agreed_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  there_form LONGTEXT NULL,
  there_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  -- What was sent last, under which key, and what the shop answered.
  sent_form LONGTEXT NULL,
  sent_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  send_key VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL,
  sent_at DATETIME(3) NULL,
  answer LONGTEXT NULL,
  answered_at DATETIME(3) NULL,
  refusal LONGTEXT NULL,
  refused_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL,
  -- Pictures the shop holds already, by our picture key.
  picture_ids LONGTEXT NULL,
  job_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY listing_product_store (product_id, store_id),
  KEY listing_workspace (workspace_id),
  KEY listing_store (store_id),
  CONSTRAINT listing_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT listing_product_fk FOREIGN KEY (product_id) REFERENCES product (id),
  CONSTRAINT listing_store_fk FOREIGN KEY (store_id) REFERENCES store (id),
  CONSTRAINT listing_job_fk FOREIGN KEY (job_id) REFERENCES job (id)
);

-- Every exchange with a shop about a listing, for a person to read.
CREATE TABLE IF NOT EXISTS listing_history (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  listing_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  what VARCHAR(40) CHARACTER SET ascii NOT NULL,
  says VARCHAR(1000) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY listing_history_listing (listing_id, id),
  CONSTRAINT listing_history_listing_fk FOREIGN KEY (listing_id) REFERENCES listing (id) ON DELETE CASCADE
);
