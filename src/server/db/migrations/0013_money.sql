-- Losses are accepted one by one, by variant and destination. What was accepted in words alone covered deeper ones too: it is open again.
ALTER TABLE finding_acceptance ADD COLUMN IF NOT EXISTS losses JSON NULL;
DELETE FROM finding_acceptance WHERE finding_id LIKE 'floor:%' AND losses IS NULL;
