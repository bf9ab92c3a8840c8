-- What a codebook from outside said of a tag for which there is no place of its own, as JSON: its colour, whether one marks with it.
ALTER TABLE tag ADD COLUMN outside TEXT;
