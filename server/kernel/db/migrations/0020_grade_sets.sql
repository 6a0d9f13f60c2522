-- Sets of grades that a department keeps to start its courses from.
CREATE TABLE grade_set (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL COLLATE NOCASE UNIQUE CHECK (name <> ''),
  grades TEXT NOT NULL CHECK (json_valid(grades)),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
