-- What a tag is not: what one might take for it, and which tag that gets instead.
ALTER TABLE tag ADD COLUMN is_not TEXT NOT NULL DEFAULT '';
