-- Which columns of a roll were matched by hand, so that the next file with the same heading is read the same way.
CREATE TABLE roll_match (
  course_id TEXT NOT NULL REFERENCES course (id),
  header TEXT NOT NULL CHECK (json_valid(header)),
  columns TEXT NOT NULL CHECK (json_valid(columns)),
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, header)
) STRICT;
