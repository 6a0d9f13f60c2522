-- Students near a line whom several people judge: could they do what the grade asks for? Each judges without the percent and without the others.
CREATE TABLE line_list (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  grade TEXT NOT NULL CHECK (length(grade) BETWEEN 1 AND 60),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  closed_at TEXT
) STRICT;
CREATE INDEX line_list_by_course ON line_list (course_id);
CREATE TABLE line_list_student (
  list_id TEXT NOT NULL REFERENCES line_list (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  -- In the order in which they are judged, which tells nothing of their percents.
  place INTEGER NOT NULL,
  PRIMARY KEY (list_id, student_id)
) STRICT;
CREATE TABLE line_list_judge (
  list_id TEXT NOT NULL REFERENCES line_list (id),
  person_id TEXT NOT NULL REFERENCES person (id),
  PRIMARY KEY (list_id, person_id)
) STRICT;
CREATE TABLE line_judgement (
  list_id TEXT NOT NULL,
  student_id TEXT NOT NULL,
  person_id TEXT NOT NULL,
  able INTEGER NOT NULL CHECK (able IN (0, 1)),
  at TEXT NOT NULL,
  PRIMARY KEY (list_id, student_id, person_id),
  FOREIGN KEY (list_id, student_id) REFERENCES line_list_student (list_id, student_id),
  FOREIGN KEY (list_id, person_id) REFERENCES line_list_judge (list_id, person_id)
) STRICT;
