-- A study's own tag that the shared set is asked to take is proposed; the trail calls the table as it is called now.
ALTER TABLE tag_offer RENAME TO tag_proposal;
UPDATE change SET table_name = 'tag_proposal' WHERE table_name = 'tag_offer';
DROP INDEX tag_offer_by_tag;
DROP INDEX tag_offer_by_study;
CREATE INDEX tag_proposal_by_tag ON tag_proposal (tag_id);
CREATE INDEX tag_proposal_by_study ON tag_proposal (study_id);
