-- Which issue a student was last told of by a letter: what a later one changes is told against it.
CREATE TABLE told_result (
  course_id TEXT NOT NULL REFERENCES course (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  number INTEGER NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, student_id)
) STRICT;
