-- How many people took part in a source and were erased: whoever remains is not credited with what nobody knows whose it is.
ALTER TABLE source ADD COLUMN people_erased INTEGER NOT NULL DEFAULT 0;

-- The table of which a survey was made goes when one of its rows does.
ALTER TABLE attachment ADD COLUMN survey_id INTEGER REFERENCES survey (id);
CREATE INDEX attachment_by_survey ON attachment (survey_id);
UPDATE attachment SET survey_id = (SELECT s.id FROM survey s WHERE s.study_id = attachment.study_id AND s.name = attachment.title);

-- What proves later that nothing is left: hashes of runs of six words that only they had said, under a salt, eight bytes each; and of the
-- files that went. A name is too short to be kept as a hash: it could be guessed.
ALTER TABLE erasure ADD COLUMN salt BLOB;
ALTER TABLE erasure ADD COLUMN phrases BLOB;
ALTER TABLE erasure ADD COLUMN files TEXT NOT NULL DEFAULT '[]';
