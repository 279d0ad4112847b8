-- How often a price list's rows were written whole: one that is taken can be laid over a new one, and what is kept in memory of it holds for one count.
ALTER TABLE price_list ADD COLUMN IF NOT EXISTS written INT UNSIGNED NOT NULL DEFAULT 0;
