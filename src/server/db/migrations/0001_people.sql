-- Who signs in, and where their work lies. Everything else of a seller's is bound to a workspace.
CREATE TABLE IF NOT EXISTS workspace (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  currency CHAR(3) CHARACTER SET ascii NOT NULL,
  country CHAR(2) CHARACTER SET ascii NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
);

CREATE TABLE IF NOT EXISTS person (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  email VARCHAR(200) NOT NULL,
  name VARCHAR(120) NOT NULL,
  password_hash VARCHAR(200) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY person_email (email)
);

CREATE TABLE IF NOT EXISTS membership (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  PRIMARY KEY (person_id, workspace_id),
  KEY membership_workspace (workspace_id),
  CONSTRAINT membership_workspace_fk FOREIGN KEY (workspace_id) REFERENCES workspace (id),
  CONSTRAINT membership_person_fk FOREIGN KEY (person_id) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS session (
  token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  KEY session_expires (expires_at),
  CONSTRAINT session_member_fk FOREIGN KEY (person_id, workspace_id) REFERENCES membership (person_id, workspace_id) ON DELETE CASCADE
);

CREATE TABLE IF NOT EXISTS access_token (
  id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
  token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  last_used_at DATETIME(3) NULL,
  revoked_at DATETIME(3) NULL,
  UNIQUE KEY access_token_hash (token_hash),
  KEY access_token_person (person_id, workspace_id),
  CONSTRAINT access_token_member_fk FOREIGN KEY (person_id, workspace_id) REFERENCES membership (person_id, workspace_id) ON DELETE CASCADE
);

-- Sign-ins that failed, so that guessing is slowed down across processes.
CREATE TABLE IF NOT EXISTS failed_sign_in (
  id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
  email VARCHAR(200) NOT NULL,
  failed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  KEY failed_sign_in_email (email, failed_at)
);

-- One unit of from_currency is rate units of to_currency. A workspace's own rates lie over the shared ones (workspace_id '').
CREATE TABLE IF NOT EXISTS exchange_rate (
  workspace_id VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  from_currency CHAR(3) CHARACTER SET ascii NOT NULL,
  to_currency CHAR(3) CHARACTER SET ascii NOT NULL,
  rate_date DATE NOT NULL,
  rate DECIMAL(20, 10) NOT NULL,
  source VARCHAR(120) NOT NULL,
  PRIMARY KEY (workspace_id, from_currency, to_currency, rate_date),
  CONSTRAINT exchange_rate_positive CHECK (rate > 0)
);
