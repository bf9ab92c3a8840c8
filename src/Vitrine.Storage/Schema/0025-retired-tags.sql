-- A retired tag stays on what carries it and is offered no more.
ALTER TABLE tag ADD COLUMN retired INTEGER NOT NULL DEFAULT 0 CHECK (retired IN (0, 1));
