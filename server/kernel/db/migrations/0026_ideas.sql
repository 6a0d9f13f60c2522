-- Named sets of changes that a lead keeps beside each other at a stop, to be tried or not.
CREATE TABLE idea (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  stop TEXT NOT NULL CHECK (stop IN ('rescale', 'bound')),
  name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  changes TEXT NOT NULL CHECK (json_valid(changes)),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  UNIQUE (course_id, stop, name)
) STRICT;
