-- The roll, the plan and the placements in full.
ALTER TABLE course ADD COLUMN names_to_markers INTEGER NOT NULL DEFAULT 1 CHECK (names_to_markers IN (0, 1));
ALTER TABLE section ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE student ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
-- The person who signs in as this student, where students do.
ALTER TABLE student ADD COLUMN person_id TEXT REFERENCES person (id);
CREATE UNIQUE INDEX one_external_id ON student (course_id, external_id) WHERE external_id IS NOT NULL;
CREATE UNIQUE INDEX one_student_a_person ON student (course_id, person_id) WHERE person_id IS NOT NULL;

ALTER TABLE assessment ADD COLUMN notes TEXT NOT NULL DEFAULT '';
-- The worth is what it is marked out of, until somebody types another.
ALTER TABLE assessment ADD COLUMN worth_follows INTEGER NOT NULL DEFAULT 0 CHECK (worth_follows IN (0, 1));
ALTER TABLE assessment ADD COLUMN away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1));

-- Findings that somebody looked at and let stand.
CREATE TABLE finding_accepted (
  course_id TEXT NOT NULL REFERENCES course (id),
  key TEXT NOT NULL,
  reason TEXT NOT NULL CHECK (reason <> ''),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, key)
) STRICT;

-- Decisions may be about the plan; the list of kinds is widened, all else stays.
CREATE TABLE decision_wider (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('reconcile', 'rescale', 'bound', 'weights', 'plan', 'several', 'confirm', 'reopen')),
  summary TEXT NOT NULL,
  changes TEXT NOT NULL CHECK (json_valid(changes)),
  effect TEXT CHECK (effect IS NULL OR json_valid(effect)),
  reason TEXT NOT NULL,
  made_by TEXT NOT NULL REFERENCES person (id),
  made_at TEXT NOT NULL,
  withdrawn_by TEXT REFERENCES person (id),
  withdrawn_at TEXT,
  withdrawn_reason TEXT,
  UNIQUE (course_id, seq),
  CHECK ((withdrawn_by IS NULL) = (withdrawn_at IS NULL))
) STRICT;
INSERT INTO decision_wider SELECT * FROM decision;
DROP TABLE decision;
ALTER TABLE decision_wider RENAME TO decision;
CREATE TRIGGER decision_stays BEFORE DELETE ON decision
BEGIN SELECT RAISE(ABORT, 'a decision is withdrawn, never deleted'); END;
CREATE TRIGGER decision_is_as_made BEFORE UPDATE OF id, course_id, seq, kind, changes, reason, made_by, made_at ON decision
BEGIN SELECT RAISE(ABORT, 'a decision is withdrawn, never rewritten'); END;
