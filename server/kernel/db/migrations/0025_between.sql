-- What two markers who disagree propose to each other: the latest of a script is the one that counts, and all of them stay.
CREATE TABLE between_two (
  id TEXT PRIMARY KEY,
  script_id TEXT NOT NULL REFERENCES script (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  mark REAL NOT NULL,
  reason TEXT NOT NULL,
  at TEXT NOT NULL,
  -- The readings that it was about, as in agreed_mark.
  over TEXT NOT NULL CHECK (json_valid(over)),
  answered_by TEXT REFERENCES person (id),
  agrees INTEGER CHECK (agrees IN (0, 1)),
  answer TEXT,
  answered_at TEXT,
  CHECK ((agrees IS NULL) = (answered_at IS NULL))
) STRICT;
CREATE INDEX between_by_script ON between_two (script_id);
