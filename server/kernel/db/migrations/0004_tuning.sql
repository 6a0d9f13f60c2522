-- How an assessment uses its standard: what students and markers see of it, and what markers may add.
ALTER TABLE assessment ADD COLUMN use TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(use));

-- Where a copy came from, so that its changes can be suggested to the owner.
ALTER TABLE standard ADD COLUMN copied_from TEXT REFERENCES standard (id);
CREATE TABLE suggestion (
  id TEXT PRIMARY KEY,
  standard_id TEXT NOT NULL REFERENCES standard (id),
  -- The copy that has the change in it; empty where it is in words alone.
  copy_id TEXT REFERENCES standard (id),
  words TEXT NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  answer TEXT CHECK (answer IN ('taken over', 'declined')),
  reply TEXT NOT NULL DEFAULT '',
  answered_at TEXT,
  CHECK ((answer IS NULL) = (answered_at IS NULL))
) STRICT;
CREATE INDEX suggestion_by_standard ON suggestion (standard_id);

-- Scripts that every marker reads before the first real one.
CREATE TABLE exemplar (
  id TEXT PRIMARY KEY,
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  label TEXT NOT NULL CHECK (label <> ''),
  text TEXT NOT NULL,
  standard_id TEXT REFERENCES standard (id),
  picks TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(picks)),
  judgement TEXT,
  mark REAL NOT NULL,
  note TEXT NOT NULL,
  -- What students are shown of it.
  shown TEXT NOT NULL DEFAULT 'nothing' CHECK (shown IN ('nothing', 'mark', 'levels')),
  position INTEGER NOT NULL,
  away INTEGER NOT NULL DEFAULT 0 CHECK (away IN (0, 1)),
  version INTEGER NOT NULL DEFAULT 1
) STRICT;
CREATE INDEX exemplar_by_assessment ON exemplar (assessment_id);
CREATE TABLE exemplar_reading (
  exemplar_id TEXT NOT NULL REFERENCES exemplar (id),
  marker_id TEXT NOT NULL REFERENCES person (id),
  picks TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(picks)),
  judgement TEXT,
  mark REAL NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (exemplar_id, marker_id)
) STRICT;
CREATE TRIGGER exemplar_stays BEFORE DELETE ON exemplar
BEGIN SELECT RAISE(ABORT, 'an exemplar is put away, never deleted'); END;
CREATE TRIGGER exemplar_reading_stays BEFORE UPDATE ON exemplar_reading
BEGIN SELECT RAISE(ABORT, 'a reading of an exemplar was made before its mark was seen, and stays'); END;

-- Whether a marker may begin, where the lead said so; without a row it follows from the exemplars read.
CREATE TABLE marking_gate (
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  marker_id TEXT NOT NULL REFERENCES person (id),
  state TEXT NOT NULL CHECK (state IN ('open', 'held')),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (assessment_id, marker_id)
) STRICT;

-- Readings carried over to another version of their rubric, by decision; the reading itself stays as it was made.
CREATE TABLE carried_reading (
  decision_id TEXT NOT NULL REFERENCES decision (id),
  reading_id TEXT NOT NULL REFERENCES reading (id),
  -- Version of the reading that was carried over; a later one stands as it was made.
  version INTEGER NOT NULL,
  standard_id TEXT NOT NULL REFERENCES standard (id),
  picks TEXT NOT NULL CHECK (json_valid(picks)),
  mark REAL NOT NULL,
  PRIMARY KEY (decision_id, reading_id)
) STRICT;
CREATE INDEX carried_by_standard ON carried_reading (standard_id);
CREATE VIEW carried_in_force AS
SELECT reading_id, version, standard_id, picks, mark FROM (
  SELECT c.*, row_number() OVER (PARTITION BY c.reading_id ORDER BY d.seq DESC) AS place
  FROM carried_reading c JOIN decision d ON d.id = c.decision_id WHERE d.withdrawn_at IS NULL
) WHERE place = 1;

DROP TRIGGER standard_with_readings_is_frozen;
CREATE TRIGGER standard_in_use_is_frozen BEFORE UPDATE OF body, kind, version, follows ON standard
WHEN EXISTS (SELECT 1 FROM reading WHERE standard_id = OLD.id)
  OR EXISTS (SELECT 1 FROM carried_reading WHERE standard_id = OLD.id)
  OR EXISTS (SELECT 1 FROM exemplar WHERE standard_id = OLD.id)
BEGIN SELECT RAISE(ABORT, 'a version that a reading uses never changes'); END;
