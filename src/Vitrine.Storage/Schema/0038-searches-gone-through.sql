-- When a kept search last went through all texts that there were; null where it went through a part of them only.
ALTER TABLE tag_search ADD COLUMN gone_through_at TEXT;
UPDATE tag_search SET gone_through_at = created_at;
