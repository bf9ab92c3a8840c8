-- How a participant has said yes: in a form, by signature, or by word; null where that was not noted.
ALTER TABLE participant ADD COLUMN agreed_by TEXT CHECK (agreed_by IN ('form', 'signature', 'word'));
