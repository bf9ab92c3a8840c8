-- A step that could not be undone, since somebody has changed the same rows, was told once; the key for undo goes on to the step before.
ALTER TABLE action ADD COLUMN passed_over INTEGER NOT NULL DEFAULT 0 CHECK (passed_over IN (0, 1));
