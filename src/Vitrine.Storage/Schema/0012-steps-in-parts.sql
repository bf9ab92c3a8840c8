-- A long step that is written in several transactions, and of which more is to come. It cannot be undone yet; under the same key it is gone on with.
ALTER TABLE action ADD COLUMN unfinished INTEGER NOT NULL DEFAULT 0;
