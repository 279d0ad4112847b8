-- What became of the daily rates: one row. Times in UTC.
CREATE TABLE IF NOT EXISTS rate_feed (
  id TINYINT PRIMARY KEY,
  asked_at DATETIME(3) NULL,
  -- When an answer was last read, and the day of the newest rate in it.
  brought_at DATETIME(3) NULL,
  newest_date DATE NULL,
  -- Why the last try brought nothing; NULL when it did.
  fault VARCHAR(300) NULL,
  -- Rates that were held back as a jump, and those that moved far the last time they changed.
  held JSON NOT NULL,
  moved JSON NOT NULL
);
INSERT IGNORE INTO rate_feed (id, held, moved) VALUES (1, '[]', '[]');
