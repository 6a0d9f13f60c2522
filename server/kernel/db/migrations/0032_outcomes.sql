-- Whether students of a course see where they stand on an outcome; nothing here, they do not.
CREATE TABLE outcome_shown (
  course_id TEXT NOT NULL REFERENCES course (id),
  outcome_id TEXT NOT NULL REFERENCES standard (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, outcome_id)
) STRICT;

-- Assessments whose overall judgement counts as evidence of an outcome.
CREATE TABLE outcome_judgement (
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  outcome_id TEXT NOT NULL REFERENCES standard (id),
  PRIMARY KEY (assessment_id, outcome_id)
) STRICT;

-- A result that a person noted by hand.
CREATE TABLE typed_evidence (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  outcome_id TEXT NOT NULL REFERENCES standard (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  level INTEGER NOT NULL CHECK (level BETWEEN 1 AND 20),
  day TEXT NOT NULL,
  note TEXT NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  taken_back_at TEXT
) STRICT;
CREATE INDEX typed_evidence_by_student ON typed_evidence (course_id, student_id);
CREATE TRIGGER typed_evidence_stays BEFORE DELETE ON typed_evidence
BEGIN SELECT RAISE(ABORT, 'what was noted is taken back, never deleted'); END;

-- Students who are kept together under a name.
CREATE TABLE kept_group (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  UNIQUE (course_id, name)
) STRICT;
CREATE TABLE kept_group_student (
  group_id TEXT NOT NULL REFERENCES kept_group (id) ON DELETE CASCADE,
  student_id TEXT NOT NULL REFERENCES student (id),
  PRIMARY KEY (group_id, student_id)
) STRICT;
