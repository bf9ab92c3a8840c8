-- How long a file of sound or film says that it lasts, where that is more than what is in it: it broke off.
ALTER TABLE recording ADD COLUMN says_ms INTEGER;
-- How long a frame of a film stands, in milliseconds; null for sound, and where frames do not come evenly.
ALTER TABLE recording ADD COLUMN frame_ms REAL;
