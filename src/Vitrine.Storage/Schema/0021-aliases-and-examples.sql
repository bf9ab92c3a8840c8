-- Other names by which a tag is found, as JSON, or nothing: names that were merged into it, and what people search for.
ALTER TABLE tag ADD COLUMN aliases TEXT NOT NULL DEFAULT '';
-- A quote that shows what a tag means, picked by hand.
ALTER TABLE observation_tag ADD COLUMN example INTEGER NOT NULL DEFAULT 0 CHECK (example IN (0, 1));
CREATE INDEX observation_tag_by_example ON observation_tag (tag_id) WHERE example = 1;
