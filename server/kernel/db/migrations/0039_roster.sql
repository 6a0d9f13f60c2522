-- How a roster knows what it brought: the ids of its classes and teachers, and names in their parts. By them the next roster finds
-- again what it meant, and files for others name what they know.
CREATE TABLE roster_class (
  section_id TEXT PRIMARY KEY REFERENCES section (id) ON DELETE CASCADE,
  course_id TEXT NOT NULL REFERENCES course (id),
  source_id TEXT NOT NULL CHECK (source_id <> ''),
  roll_file_id TEXT NOT NULL REFERENCES roll_file (id),
  UNIQUE (course_id, source_id)
) STRICT;
CREATE TABLE roster_teacher (
  course_id TEXT NOT NULL REFERENCES course (id),
  person_id TEXT NOT NULL REFERENCES person (id),
  source_id TEXT NOT NULL CHECK (source_id <> ''),
  PRIMARY KEY (course_id, person_id)
) STRICT;
CREATE TABLE roster_name (
  student_id TEXT PRIMARY KEY REFERENCES student (id) ON DELETE CASCADE,
  given TEXT NOT NULL,
  middle TEXT NOT NULL,
  family TEXT NOT NULL
) STRICT;
