-- Steps that a person set off at once, such as the files of one drop: undone and done again together.
ALTER TABLE action ADD COLUMN batch TEXT;
CREATE INDEX action_by_batch ON action (batch) WHERE batch IS NOT NULL;
