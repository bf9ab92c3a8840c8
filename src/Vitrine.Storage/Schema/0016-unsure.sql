-- Whether the reading is unsure: to be looked at again.
ALTER TABLE observation ADD COLUMN unsure INTEGER NOT NULL DEFAULT 0 CHECK (unsure IN (0, 1));
