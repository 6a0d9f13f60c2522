-- Who let a stand-in fail on purpose, for which course and when; the latest word on each holds.
CREATE TABLE stand_in_set (
  id INTEGER PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL CHECK (name IN ('submission box', 'post')),
  fails INTEGER NOT NULL CHECK (fails IN (0, 1)),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX stand_in_set_by_course ON stand_in_set (course_id, name, id);
CREATE TRIGGER stand_in_set_stays BEFORE DELETE ON stand_in_set
BEGIN SELECT RAISE(ABORT, 'who let a stand-in fail is never deleted'); END;
DROP TABLE stand_in_fault;
