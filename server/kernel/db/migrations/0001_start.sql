-- Who there is and who may what.
CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;

CREATE TABLE person (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL CHECK (name <> ''),
  sign_in TEXT NOT NULL UNIQUE COLLATE NOCASE,
  passphrase_hash TEXT NOT NULL,
  does TEXT NOT NULL DEFAULT '',
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1)),
  admin INTEGER NOT NULL DEFAULT 0 CHECK (admin IN (0, 1))
) STRICT;

CREATE TABLE session (
  token_hash TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES person (id),
  created_at TEXT NOT NULL,
  expires_at TEXT NOT NULL
) STRICT;

CREATE TABLE course (
  id TEXT PRIMARY KEY,
  code TEXT NOT NULL,
  title TEXT NOT NULL,
  term TEXT NOT NULL,
  first_day TEXT NOT NULL,
  last_day TEXT NOT NULL CHECK (last_day >= first_day),
  policy TEXT NOT NULL CHECK (json_valid(policy)),
  boundaries TEXT NOT NULL CHECK (json_valid(boundaries)),
  version INTEGER NOT NULL DEFAULT 1,
  UNIQUE (code, term)
) STRICT;

CREATE TABLE course_role (
  course_id TEXT NOT NULL REFERENCES course (id),
  person_id TEXT NOT NULL REFERENCES person (id),
  role TEXT NOT NULL CHECK (role IN ('lead', 'marker', 'external', 'student')),
  PRIMARY KEY (course_id, person_id)
) STRICT;

-- The roll.
CREATE TABLE section (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  teacher_id TEXT REFERENCES person (id),
  weekdays TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(weekdays)),
  first_day TEXT,
  position INTEGER NOT NULL,
  UNIQUE (course_id, code)
) STRICT;

CREATE TABLE student (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL CHECK (name <> ''),
  candidate TEXT NOT NULL,
  external_id TEXT,
  UNIQUE (course_id, candidate)
) STRICT;

CREATE TABLE enrolment (
  student_id TEXT NOT NULL REFERENCES student (id),
  section_id TEXT NOT NULL REFERENCES section (id),
  from_day TEXT NOT NULL,
  to_day TEXT CHECK (to_day IS NULL OR to_day >= from_day),
  PRIMARY KEY (student_id, section_id, from_day)
) STRICT;
CREATE UNIQUE INDEX one_section_at_a_time ON enrolment (student_id) WHERE to_day IS NULL;
CREATE INDEX enrolment_by_section ON enrolment (section_id);

-- The department's library. A version that a reading uses never changes: an edit makes the next one.
CREATE TABLE standard (
  id TEXT PRIMARY KEY,
  kind TEXT NOT NULL CHECK (kind IN ('rubric', 'scheme', 'scale', 'outcome')),
  title TEXT NOT NULL,
  owner_id TEXT NOT NULL REFERENCES person (id),
  version INTEGER NOT NULL DEFAULT 1 CHECK (version >= 1),
  follows TEXT REFERENCES standard (id),
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- The plan. Weights and worths are empty until somebody types them.
CREATE TABLE component (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  title TEXT NOT NULL,
  weight REAL CHECK (weight >= 0),
  combine TEXT NOT NULL CHECK (combine IN ('byWorth', 'equally')),
  drop_lowest INTEGER NOT NULL DEFAULT 0 CHECK (drop_lowest >= 0),
  bonus INTEGER NOT NULL DEFAULT 0 CHECK (bonus IN (0, 1)),
  position INTEGER NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  UNIQUE (course_id, title)
) STRICT;

CREATE TABLE assessment (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  component_id TEXT NOT NULL REFERENCES component (id),
  title TEXT NOT NULL,
  marking TEXT NOT NULL CHECK (marking IN ('direct', 'rubric', 'scheme', 'judgement', 'completion')),
  out_of REAL NOT NULL CHECK (out_of > 0),
  worth REAL CHECK (worth >= 0),
  counts INTEGER NOT NULL DEFAULT 1 CHECK (counts IN (0, 1)),
  bonus INTEGER NOT NULL DEFAULT 0 CHECK (bonus IN (0, 1)),
  droppable INTEGER NOT NULL DEFAULT 1 CHECK (droppable IN (0, 1)),
  pass_mark REAL,
  tolerance REAL NOT NULL DEFAULT 0 CHECK (tolerance >= 0),
  readings_wanted INTEGER NOT NULL DEFAULT 1 CHECK (readings_wanted >= 1),
  step REAL CHECK (step > 0),
  blind INTEGER NOT NULL DEFAULT 0 CHECK (blind IN (0, 1)),
  standard_id TEXT REFERENCES standard (id),
  position INTEGER NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  UNIQUE (course_id, title)
) STRICT;

CREATE TABLE placement (
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  section_id TEXT NOT NULL REFERENCES section (id),
  due TEXT,
  release TEXT NOT NULL DEFAULT '{"kind":"confirmed"}' CHECK (json_valid(release)),
  PRIMARY KEY (assessment_id, section_id)
) STRICT;

-- Work, readings, and every earlier state of them.
CREATE TABLE script (
  id TEXT PRIMARY KEY,
  student_id TEXT NOT NULL REFERENCES student (id),
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  status TEXT NOT NULL DEFAULT 'in' CHECK (status IN ('in', 'late', 'missing', 'absent', 'exempt', 'held')),
  days_late INTEGER NOT NULL DEFAULT 0 CHECK (days_late >= 0 AND (days_late = 0 OR status = 'late')),
  came_at TEXT,
  entered REAL,
  version INTEGER NOT NULL DEFAULT 1,
  UNIQUE (student_id, assessment_id)
) STRICT;
CREATE INDEX script_by_assessment ON script (assessment_id);

CREATE TABLE script_state (
  script_id TEXT NOT NULL REFERENCES script (id),
  version INTEGER NOT NULL,
  status TEXT NOT NULL,
  days_late INTEGER NOT NULL,
  entered REAL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (script_id, version)
) STRICT;

CREATE TABLE reading (
  id TEXT PRIMARY KEY,
  script_id TEXT NOT NULL REFERENCES script (id),
  marker_id TEXT NOT NULL REFERENCES person (id),
  standard_id TEXT REFERENCES standard (id),
  mark REAL,
  picks TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(picks)),
  judgement TEXT,
  comment TEXT NOT NULL DEFAULT '',
  criterion_comments TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(criterion_comments)),
  state TEXT NOT NULL CHECK (state IN ('draft', 'handed in')),
  handed_in_at TEXT CHECK (state = 'draft' OR handed_in_at IS NOT NULL),
  version INTEGER NOT NULL DEFAULT 1,
  UNIQUE (script_id, marker_id),
  CHECK (state = 'draft' OR mark IS NOT NULL)
) STRICT;

CREATE TABLE reading_state (
  reading_id TEXT NOT NULL REFERENCES reading (id),
  version INTEGER NOT NULL,
  mark REAL,
  picks TEXT NOT NULL,
  state TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (reading_id, version)
) STRICT;

-- The record. What is in force follows from the decisions that are not withdrawn, in their order.
CREATE TABLE decision (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  seq INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('reconcile', 'rescale', 'bound', 'weights', 'several', 'confirm', 'reopen')),
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

CREATE TABLE agreed_mark (
  script_id TEXT NOT NULL REFERENCES script (id),
  decision_id TEXT NOT NULL REFERENCES decision (id),
  mark REAL NOT NULL,
  rule TEXT NOT NULL CHECK (json_valid(rule)),
  in_force INTEGER NOT NULL CHECK (in_force IN (0, 1)),
  PRIMARY KEY (script_id, decision_id)
) STRICT;
CREATE UNIQUE INDEX one_agreed_mark_in_force ON agreed_mark (script_id) WHERE in_force = 1;

CREATE TABLE trial (
  course_id TEXT NOT NULL REFERENCES course (id),
  person_id TEXT NOT NULL REFERENCES person (id),
  changes TEXT NOT NULL CHECK (json_valid(changes)),
  kept_at TEXT NOT NULL,
  PRIMARY KEY (course_id, person_id)
) STRICT;

-- Confirmed results.
CREATE TABLE issue (
  course_id TEXT NOT NULL REFERENCES course (id),
  number INTEGER NOT NULL CHECK (number >= 1),
  content TEXT NOT NULL CHECK (json_valid(content)),
  hash TEXT NOT NULL,
  made_at TEXT NOT NULL,
  reopened_by TEXT REFERENCES person (id),
  reopened_at TEXT,
  reopened_reason TEXT,
  PRIMARY KEY (course_id, number)
) STRICT;
CREATE UNIQUE INDEX one_issue_in_force ON issue (course_id) WHERE reopened_at IS NULL;

CREATE TABLE signature (
  course_id TEXT NOT NULL,
  number INTEGER NOT NULL,
  person_id TEXT NOT NULL REFERENCES person (id),
  role TEXT NOT NULL,
  statement TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, number, person_id),
  FOREIGN KEY (course_id, number) REFERENCES issue (course_id, number)
) STRICT;

CREATE TRIGGER issue_is_frozen BEFORE UPDATE OF course_id, number, content, hash, made_at ON issue
BEGIN SELECT RAISE(ABORT, 'a confirmed issue never changes'); END;
CREATE TRIGGER issue_stays BEFORE DELETE ON issue
BEGIN SELECT RAISE(ABORT, 'a confirmed issue is never deleted'); END;
CREATE TRIGGER decision_stays BEFORE DELETE ON decision
BEGIN SELECT RAISE(ABORT, 'a decision is withdrawn, never deleted'); END;
CREATE TRIGGER decision_is_as_made BEFORE UPDATE OF id, course_id, seq, kind, changes, reason, made_by, made_at ON decision
BEGIN SELECT RAISE(ABORT, 'a decision is withdrawn, never rewritten'); END;
CREATE TRIGGER script_stays BEFORE DELETE ON script
BEGIN SELECT RAISE(ABORT, 'a script is never deleted'); END;
CREATE TRIGGER reading_stays BEFORE DELETE ON reading
BEGIN SELECT RAISE(ABORT, 'a reading is never deleted'); END;
CREATE TRIGGER reading_keeps_its_marker BEFORE UPDATE OF script_id, marker_id ON reading
BEGIN SELECT RAISE(ABORT, 'a reading belongs to one marker'); END;
CREATE TRIGGER script_state_stays BEFORE DELETE ON script_state
BEGIN SELECT RAISE(ABORT, 'history is never deleted'); END;
