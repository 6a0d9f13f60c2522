-- The issue of each student's last letter: changes in a later issue are compared with it.
CREATE TABLE told_result (
  course_id TEXT NOT NULL REFERENCES course (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  number INTEGER NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, student_id)
) STRICT;
