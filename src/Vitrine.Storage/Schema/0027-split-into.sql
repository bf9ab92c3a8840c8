-- Into which tags a tag was split last, JSON: so that its trail and the history of the tag set tell of it.
ALTER TABLE tag ADD COLUMN split_into TEXT NOT NULL DEFAULT '';
