-- Who reads what, and how the marking of an assessment is shared out.
CREATE TABLE allotment (
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  marker_id TEXT NOT NULL REFERENCES person (id),
  -- Place in the marker's own order.
  place INTEGER NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (assessment_id, student_id, marker_id)
) STRICT;
CREATE INDEX allotment_by_marker ON allotment (marker_id, assessment_id);
CREATE TABLE marking_deadline (
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  marker_id TEXT NOT NULL REFERENCES person (id),
  due TEXT NOT NULL,
  PRIMARY KEY (assessment_id, marker_id)
) STRICT;
-- What a marker may see of others' readings of a script, once their own is handed in.
ALTER TABLE assessment ADD COLUMN sees TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(sees));

-- The work itself, as far as it is text.
ALTER TABLE script ADD COLUMN text TEXT;
ALTER TABLE reading ADD COLUMN notes TEXT NOT NULL DEFAULT '';
ALTER TABLE reading ADD COLUMN edited_at TEXT;
ALTER TABLE reading_state ADD COLUMN judgement TEXT;
ALTER TABLE reading_state ADD COLUMN comment TEXT NOT NULL DEFAULT '';
ALTER TABLE reading_state ADD COLUMN criterion_comments TEXT NOT NULL DEFAULT '{}';
ALTER TABLE reading_state ADD COLUMN notes TEXT NOT NULL DEFAULT '';
CREATE TRIGGER reading_state_stays BEFORE DELETE ON reading_state
BEGIN SELECT RAISE(ABORT, 'every earlier state of a reading is kept'); END;

-- A marker's own stock of comments.
CREATE TABLE kept_comment (
  id TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES person (id),
  words TEXT NOT NULL CHECK (words <> ''),
  used INTEGER NOT NULL DEFAULT 0,
  at TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX one_kept_comment ON kept_comment (person_id, words);

-- Raised by every write but those of marks alone, so that a mark saved does not make the whole plan be read anew.
ALTER TABLE course ADD COLUMN plan_version INTEGER NOT NULL DEFAULT 1;
