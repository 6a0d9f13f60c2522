-- How a person writes numbers and days, and which keys they press; whoever has chosen nothing has no row.
CREATE TABLE own_settings (
  person_id TEXT PRIMARY KEY REFERENCES person (id),
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;
