-- What students of a course see beyond their released marks, and what they may do; nothing here, nothing of it.
CREATE TABLE student_view (
  course_id TEXT PRIMARY KEY REFERENCES course (id),
  so_far INTEGER NOT NULL DEFAULT 0 CHECK (so_far IN (0, 1)),
  ask_days INTEGER CHECK (ask_days BETWEEN 1 AND 90)
) STRICT;

-- Assessments whose work students hand in here.
CREATE TABLE handed_in_here (
  assessment_id TEXT PRIMARY KEY REFERENCES assessment (id)
) STRICT;

-- When a mark that is let out by hand was let out.
ALTER TABLE placement ADD COLUMN let_out_at TEXT;

-- What a student asks about a mark; it is answered once, and stays.
CREATE TABLE mark_question (
  id TEXT PRIMARY KEY,
  script_id TEXT NOT NULL REFERENCES script (id),
  criterion_id TEXT,
  about TEXT,
  reason TEXT NOT NULL,
  mark_then REAL,
  at TEXT NOT NULL,
  answer TEXT,
  answered_by TEXT REFERENCES person (id),
  answered_at TEXT,
  CHECK ((criterion_id IS NULL) = (about IS NULL)),
  CHECK ((answer IS NULL) = (answered_by IS NULL) AND (answer IS NULL) = (answered_at IS NULL))
) STRICT;
CREATE INDEX mark_question_by_script ON mark_question (script_id);
CREATE UNIQUE INDEX mark_question_open ON mark_question (script_id, coalesce(criterion_id, '')) WHERE answer IS NULL;
CREATE TRIGGER mark_question_stays BEFORE DELETE ON mark_question
BEGIN SELECT RAISE(ABORT, 'what was asked stays'); END;
