-- What a student is called where a class looks on: a thing, and nobody's name.
CREATE TABLE code_name (
  student_id TEXT PRIMARY KEY REFERENCES student (id),
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL COLLATE NOCASE,
  UNIQUE (course_id, name)
) STRICT;
