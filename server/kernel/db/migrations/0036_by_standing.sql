-- Assessments whose marks are where students stand on an outcome; they follow it as evidence comes in.
CREATE TABLE by_standing (
  assessment_id TEXT PRIMARY KEY REFERENCES assessment (id),
  outcome_id TEXT NOT NULL REFERENCES standard (id),
  percents TEXT NOT NULL,
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
