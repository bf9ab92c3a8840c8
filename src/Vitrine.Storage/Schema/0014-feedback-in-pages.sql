-- Feedback is shown in pages, the latest first.
CREATE INDEX feedback_by_time ON feedback (written_at DESC, id DESC);
