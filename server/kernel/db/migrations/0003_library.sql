-- The department's library: states, and a record of who made which version when.
ALTER TABLE standard ADD COLUMN state TEXT NOT NULL DEFAULT 'ready' CHECK (state IN ('draft', 'ready', 'retired'));
-- Raised by every edit, so that two people do not write over each other.
ALTER TABLE standard ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
ALTER TABLE standard ADD COLUMN edited_at TEXT;
CREATE UNIQUE INDEX one_next_version ON standard (follows) WHERE follows IS NOT NULL;
CREATE INDEX assessment_by_standard ON assessment (standard_id);
CREATE INDEX reading_by_standard ON reading (standard_id);
CREATE TRIGGER standard_with_readings_is_frozen BEFORE UPDATE OF body, kind, version, follows ON standard
WHEN EXISTS (SELECT 1 FROM reading WHERE standard_id = OLD.id)
BEGIN SELECT RAISE(ABORT, 'a version that a reading uses never changes'); END;
