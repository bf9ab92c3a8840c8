-- A tag's own measure as JSON: least, most, step, unit, and what its ends are called; applying the tag then asks a value.
ALTER TABLE tag ADD COLUMN scale TEXT;
ALTER TABLE observation_tag ADD COLUMN value REAL;
