-- What can be printed on. Shared by all workspaces; a price list with a workspace lies over the shared one for that workspace.
CREATE TABLE IF NOT EXISTS partner (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  code VARCHAR(60) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  country CHAR(2) CHARACTER SET ascii NOT NULL,
  currency CHAR(3) CHARACTER SET ascii NOT NULL,
  UNIQUE KEY partner_code (code)
);

CREATE TABLE IF NOT EXISTS good (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  code VARCHAR(60) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  kind VARCHAR(40) CHARACTER SET ascii NOT NULL,
  UNIQUE KEY good_code (code)
);

CREATE TABLE IF NOT EXISTS blank (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  good_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  partner_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  code VARCHAR(60) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  description TEXT NOT NULL,
  facts JSON NOT NULL,
  parcel_class VARCHAR(40) CHARACTER SET ascii NOT NULL,
  making_days_min INT NOT NULL,
  making_days_max INT NOT NULL,
  UNIQUE KEY blank_code (partner_id, code),
  KEY blank_good (good_id),
  CONSTRAINT blank_good_fk FOREIGN KEY (good_id) REFERENCES good (id),
  CONSTRAINT blank_partner_fk FOREIGN KEY (partner_id) REFERENCES partner (id)
);

CREATE TABLE IF NOT EXISTS piece (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (blank_id, code),
  CONSTRAINT piece_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id)
);

-- Immutable by content: id is a hash of document.
CREATE TABLE IF NOT EXISTS geometry (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  document JSON NOT NULL
);

CREATE TABLE IF NOT EXISTS area (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  area_key VARCHAR(61) CHARACTER SET ascii NOT NULL,
  piece_code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  technique VARCHAR(40) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (blank_id, area_key),
  CONSTRAINT area_piece_fk FOREIGN KEY (blank_id, piece_code) REFERENCES piece (blank_id, code)
);

-- Which geometry an area has for which option values; the first in position whose filter holds.
CREATE TABLE IF NOT EXISTS area_geometry (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  area_key VARCHAR(61) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  geometry_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  applies JSON NOT NULL,
  PRIMARY KEY (blank_id, area_key, position),
  CONSTRAINT area_geometry_area_fk FOREIGN KEY (blank_id, area_key) REFERENCES area (blank_id, area_key),
  CONSTRAINT area_geometry_geometry_fk FOREIGN KEY (geometry_id) REFERENCES geometry (id)
);

CREATE TABLE IF NOT EXISTS blank_option (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  option_code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  name VARCHAR(60) NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (blank_id, option_code),
  CONSTRAINT blank_option_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id)
);

CREATE TABLE IF NOT EXISTS blank_option_value (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  option_code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  value_code VARCHAR(40) CHARACTER SET ascii NOT NULL,
  name VARCHAR(80) NOT NULL,
  hex CHAR(7) CHARACTER SET ascii NULL,
  position INT NOT NULL,
  PRIMARY KEY (blank_id, option_code, value_code),
  CONSTRAINT blank_option_value_fk FOREIGN KEY (blank_id, option_code) REFERENCES blank_option (blank_id, option_code)
);

CREATE TABLE IF NOT EXISTS blank_variant (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  position INT NOT NULL,
  weight_g INT NOT NULL,
  stock INT NOT NULL,
  ended_at DATETIME(3) NULL,
  PRIMARY KEY (blank_id, variant_key),
  CONSTRAINT blank_variant_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id)
);

CREATE TABLE IF NOT EXISTS blank_variant_value (
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  option_code VARCHAR(30) CHARACTER SET ascii NOT NULL,
  value_code VARCHAR(40) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (blank_id, variant_key, option_code),
  KEY blank_variant_value_search (blank_id, option_code, value_code),
  CONSTRAINT blank_variant_value_variant_fk FOREIGN KEY (blank_id, variant_key) REFERENCES blank_variant (blank_id, variant_key),
  CONSTRAINT blank_variant_value_value_fk FOREIGN KEY (blank_id, option_code, value_code) REFERENCES blank_option_value (blank_id, option_code, value_code)
);

-- Dated versions of a partner's prices; workspace_id NULL is shared. The newest in force wins, a workspace's own before a shared one.
CREATE TABLE IF NOT EXISTS price_list (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  partner_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NULL,
  currency CHAR(3) CHARACTER SET ascii NOT NULL,
  valid_from DATE NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY price_list_partner (partner_id, workspace_id, valid_from),
  CONSTRAINT price_list_partner_fk FOREIGN KEY (partner_id) REFERENCES partner (id),
  CONSTRAINT price_list_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id)
);

CREATE TABLE IF NOT EXISTS price_list_variant (
  price_list_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant_key VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  base_cost_minor BIGINT NOT NULL,
  PRIMARY KEY (price_list_id, blank_id, variant_key),
  KEY price_list_variant_blank (blank_id, variant_key),
  CONSTRAINT price_list_variant_list_fk FOREIGN KEY (price_list_id) REFERENCES price_list (id),
  CONSTRAINT price_list_variant_variant_fk FOREIGN KEY (blank_id, variant_key) REFERENCES blank_variant (blank_id, variant_key),
  CONSTRAINT price_list_variant_cost CHECK (base_cost_minor >= 0)
);

CREATE TABLE IF NOT EXISTS price_list_area (
  price_list_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  area_key VARCHAR(61) CHARACTER SET ascii NOT NULL,
  extra_minor BIGINT NOT NULL,
  PRIMARY KEY (price_list_id, blank_id, area_key),
  CONSTRAINT price_list_area_list_fk FOREIGN KEY (price_list_id) REFERENCES price_list (id),
  CONSTRAINT price_list_area_area_fk FOREIGN KEY (blank_id, area_key) REFERENCES area (blank_id, area_key)
);

CREATE TABLE IF NOT EXISTS price_list_shipping (
  price_list_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  parcel_class VARCHAR(40) CHARACTER SET ascii NOT NULL,
  region VARCHAR(30) CHARACTER SET ascii NOT NULL,
  countries JSON NOT NULL,
  first_minor BIGINT NOT NULL,
  further_minor BIGINT NOT NULL,
  days_min INT NOT NULL,
  days_max INT NOT NULL,
  position INT NOT NULL,
  PRIMARY KEY (price_list_id, parcel_class, region),
  CONSTRAINT price_list_shipping_list_fk FOREIGN KEY (price_list_id) REFERENCES price_list (id)
);

CREATE TABLE IF NOT EXISTS shot (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  blank_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  code VARCHAR(60) CHARACTER SET ascii NOT NULL,
  position INT NOT NULL,
  document JSON NOT NULL,
  -- Hash of the document and its passes: a picture made from other passes is another picture.
  content_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  UNIQUE KEY shot_code (blank_id, code),
  CONSTRAINT shot_blank_fk FOREIGN KEY (blank_id) REFERENCES blank (id)
);

CREATE TABLE IF NOT EXISTS shot_pass (
  shot_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  file VARCHAR(100) CHARACTER SET ascii NOT NULL,
  sha256 CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (shot_id, file),
  CONSTRAINT shot_pass_shot_fk FOREIGN KEY (shot_id) REFERENCES shot (id),
  CONSTRAINT shot_pass_blob_fk FOREIGN KEY (sha256) REFERENCES blob_object (sha256)
);
