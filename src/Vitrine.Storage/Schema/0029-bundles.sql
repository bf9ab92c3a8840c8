-- A bundle is a row of tag, so that it has a name and a place wherever a tag has one; what it holds stands beside it.
ALTER TABLE tag ADD COLUMN bundle INTEGER NOT NULL DEFAULT 0 CHECK (bundle IN (0, 1));
CREATE TABLE bundle_tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  bundle_id INTEGER NOT NULL REFERENCES tag (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (bundle_id, tag_id)
) STRICT;
CREATE INDEX bundle_tag_by_tag ON bundle_tag (tag_id);

-- Whatever gives a tag to something gives a tag, never a bundle.
CREATE TRIGGER observation_tag_is_no_bundle BEFORE INSERT ON observation_tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER attachment_tag_is_no_bundle BEFORE INSERT ON attachment_tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER live_line_tag_is_no_bundle BEFORE INSERT ON live_line_tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER pen_is_no_bundle BEFORE INSERT ON pen
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER tag_search_is_no_bundle BEFORE INSERT ON tag_search
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER refused_passage_is_no_bundle BEFORE INSERT ON refused_passage
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER tag_split_is_no_bundle BEFORE INSERT ON tag_split
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER split_tray_is_no_bundle BEFORE INSERT ON split_tray
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER bundle_tag_is_no_bundle BEFORE INSERT ON bundle_tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.tag_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER tag_under_no_bundle_added BEFORE INSERT ON tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.parent_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
CREATE TRIGGER tag_under_no_bundle BEFORE UPDATE OF parent_id ON tag
WHEN (SELECT bundle FROM tag WHERE id = NEW.parent_id) BEGIN SELECT RAISE(ABORT, 'bundle'); END;
