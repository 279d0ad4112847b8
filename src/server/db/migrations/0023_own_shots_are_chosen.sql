-- A seller's own shot stands in the pictures of products that chose it, and joins no other set by itself.
UPDATE shot SET document = JSON_SET(document, '$.chosenOnly', TRUE) WHERE workspace_id IS NOT NULL;
