-- What somebody who oversees a course notes on a section, a marker, a script or a decision, and what its lead answers.
CREATE TABLE note (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  about TEXT NOT NULL CHECK (about IN ('section', 'marker', 'script', 'decision')),
  about_id TEXT NOT NULL,
  assessment_id TEXT REFERENCES assessment (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  words TEXT NOT NULL,
  at TEXT NOT NULL,
  answer TEXT,
  answered_by TEXT REFERENCES person (id),
  answered_at TEXT,
  CHECK ((answer IS NULL) = (answered_at IS NULL))
) STRICT;
CREATE INDEX note_by_course ON note (course_id);
CREATE TRIGGER note_stays BEFORE DELETE ON note BEGIN SELECT RAISE(ABORT, 'a note stays on the record'); END;
