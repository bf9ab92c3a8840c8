-- Names to choose from for participants, with commas between them; empty for the list that the pages bring.
ALTER TABLE study ADD COLUMN pseudonyms TEXT NOT NULL DEFAULT '';
