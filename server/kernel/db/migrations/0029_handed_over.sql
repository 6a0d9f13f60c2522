-- From which day students of a section see the results in force.
CREATE TABLE result_release (
  course_id TEXT NOT NULL REFERENCES course (id),
  section_id TEXT NOT NULL REFERENCES section (id),
  on_day TEXT NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (course_id, section_id)
) STRICT;

-- What was sent to the records office, and what it answered; no receipt while no answer has come. Its id is the key by which the office
-- knows whether it has it already.
CREATE TABLE hand_over (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL,
  number INTEGER NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  sent TEXT NOT NULL CHECK (json_valid(sent)),
  receipt TEXT,
  refused TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(refused)),
  answered_at TEXT,
  FOREIGN KEY (course_id, number) REFERENCES issue (course_id, number),
  CHECK ((receipt IS NULL) = (answered_at IS NULL))
) STRICT;
CREATE INDEX hand_over_by_issue ON hand_over (course_id, number);
CREATE TRIGGER hand_over_stays BEFORE DELETE ON hand_over
BEGIN SELECT RAISE(ABORT, 'a hand-over is never deleted'); END;
CREATE TRIGGER hand_over_is_as_sent BEFORE UPDATE OF id, course_id, number, by_id, at, sent ON hand_over
BEGIN SELECT RAISE(ABORT, 'a hand-over is never rewritten'); END;
CREATE TRIGGER hand_over_is_answered_once BEFORE UPDATE OF receipt, refused, answered_at ON hand_over WHEN OLD.receipt IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'a hand-over is answered once'); END;

-- A third service from outside that can be made to fail.
CREATE TABLE stand_in_told (
  id INTEGER PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  name TEXT NOT NULL CHECK (name IN ('submission box', 'post', 'records office')),
  fails INTEGER NOT NULL CHECK (fails IN (0, 1)),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
INSERT INTO stand_in_told SELECT * FROM stand_in_set;
DROP TRIGGER stand_in_set_stays;
DROP TABLE stand_in_set;
ALTER TABLE stand_in_told RENAME TO stand_in_set;
CREATE INDEX stand_in_set_by_course ON stand_in_set (course_id, name, id);
CREATE TRIGGER stand_in_set_stays BEFORE DELETE ON stand_in_set
BEGIN SELECT RAISE(ABORT, 'who let a stand-in fail is never deleted'); END;
