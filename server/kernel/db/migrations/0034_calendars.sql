-- When a due day was last moved, and how often: what a calendar needs to tell a new state from an old one.
ALTER TABLE placement ADD COLUMN moved_at TEXT;
ALTER TABLE placement ADD COLUMN moves INTEGER NOT NULL DEFAULT 0 CHECK (moves >= 0);
CREATE TRIGGER placement_moved AFTER UPDATE OF due ON placement WHEN new.due IS NOT old.due
BEGIN
  UPDATE placement SET moves = old.moves + 1, moved_at = strftime('%Y-%m-%dT%H:%M:%fZ', 'now')
  WHERE assessment_id = new.assessment_id AND section_id = new.section_id;
END;

-- The private address of a person's due days; a new one takes the place of the one before.
CREATE TABLE calendar_address (
  person_id TEXT PRIMARY KEY REFERENCES person (id),
  token TEXT NOT NULL UNIQUE,
  at TEXT NOT NULL
) STRICT;
