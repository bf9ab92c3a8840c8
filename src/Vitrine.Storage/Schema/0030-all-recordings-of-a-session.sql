-- With which recordings a transcript runs: the one it is attached to, and all of its session that are ready; each with what is added to
-- the times of either to have those of the session.
DROP VIEW in_step;
CREATE VIEW in_step AS
SELECT s.id AS transcript_id, r.id AS recording_id, 1 AS attached, s.offset_ms, r.offset_ms AS recording_offset_ms, r.position
FROM source s JOIN source r ON r.id = s.in_step_with_id WHERE s.length > 0
UNION ALL
SELECT s.id, r.id, 0, s.offset_ms, r.offset_ms, r.position
FROM source s JOIN source r ON r.session_id = s.session_id JOIN media m ON m.id = r.media_id JOIN recording q ON q.hash = m.hash
WHERE s.length > 0 AND r.id <> s.id AND r.id IS NOT s.in_step_with_id;
