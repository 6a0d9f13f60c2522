-- Who read what before each sharing out, so that it can be taken back.
CREATE TABLE shared_out (
  id INTEGER PRIMARY KEY,
  assessment_id TEXT NOT NULL REFERENCES assessment (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  -- Pairs of student and marker, in each marker's own order.
  before TEXT NOT NULL CHECK (json_valid(before)),
  taken_back_at TEXT
) STRICT;
CREATE INDEX shared_out_by_assessment ON shared_out (assessment_id, id);
