-- Rolls that were brought in from a file: what they did, and how everything they touched was before.
CREATE TABLE roll_file (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL,
  summary TEXT NOT NULL,
  before TEXT NOT NULL CHECK (json_valid(before)),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  undone_by TEXT REFERENCES person (id),
  undone_at TEXT
) STRICT;
CREATE INDEX roll_file_by_course ON roll_file (course_id, at);
CREATE TRIGGER roll_file_stays BEFORE DELETE ON roll_file
BEGIN SELECT RAISE(ABORT, 'that a roll was brought in is never deleted'); END;
