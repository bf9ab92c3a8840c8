-- What points to a row is asked for whenever that row is removed or erased, and in both directions by most lists.
CREATE INDEX research_question_by_study ON research_question (study_id);
CREATE INDEX attribute_by_study ON attribute (study_id);
CREATE INDEX attribute_value_by_attribute ON attribute_value (attribute_id);
CREATE INDEX source_participant_by_participant ON source_participant (participant_id);
CREATE INDEX speaker_by_participant ON speaker (participant_id);
CREATE INDEX theme_by_parent ON theme (parent_id);
CREATE INDEX theme_tag_by_tag ON theme_tag (tag_id);
CREATE INDEX insight_by_study ON insight (study_id);
CREATE INDEX not_asked_by_tag ON not_asked (tag_id);
CREATE INDEX not_asked_by_theme ON not_asked (theme_id);
CREATE INDEX not_asked_by_insight ON not_asked (insight_id);
CREATE INDEX exhibit_insight_by_insight ON exhibit_insight (insight_id);
CREATE INDEX exhibit_link_by_exhibit ON exhibit_link (exhibit_id);
CREATE INDEX live_notes_by_session ON live_notes (session_id);
