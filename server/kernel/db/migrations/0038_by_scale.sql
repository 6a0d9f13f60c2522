-- What a level is worth may be read off a scale of the library: which label each level is read off as, from 0. The version it is read
-- off never changes; an edit makes the next.
ALTER TABLE by_standing ADD COLUMN scale_id TEXT REFERENCES standard (id);
ALTER TABLE by_standing ADD COLUMN labels TEXT CHECK ((labels IS NULL) = (scale_id IS NULL));
CREATE INDEX by_standing_by_scale ON by_standing (scale_id) WHERE scale_id IS NOT NULL;
DROP TRIGGER standard_in_use_is_frozen;
CREATE TRIGGER standard_in_use_is_frozen BEFORE UPDATE OF body, kind, version, follows ON standard
WHEN EXISTS (SELECT 1 FROM reading WHERE standard_id = OLD.id)
  OR EXISTS (SELECT 1 FROM carried_reading WHERE standard_id = OLD.id)
  OR EXISTS (SELECT 1 FROM exemplar WHERE standard_id = OLD.id)
  OR EXISTS (SELECT 1 FROM by_standing WHERE scale_id = OLD.id)
BEGIN SELECT RAISE(ABORT, 'a version that a reading uses never changes'); END;
