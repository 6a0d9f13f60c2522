-- How a file of marks was matched by hand, so that the next one with the same heading is read the same way.
CREATE TABLE marks_match (
  course_id TEXT NOT NULL REFERENCES course (id),
  header TEXT NOT NULL CHECK (json_valid(header)),
  match TEXT NOT NULL CHECK (json_valid(match)),
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, header)
) STRICT;
