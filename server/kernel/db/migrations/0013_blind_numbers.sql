-- What a script is called by those who read it blind: an id and a number of its own for each assessment, told nowhere else.
CREATE TABLE blind_script (
  id TEXT PRIMARY KEY,
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  number TEXT NOT NULL,
  UNIQUE (assessment_id, student_id),
  UNIQUE (assessment_id, number)
) STRICT;
