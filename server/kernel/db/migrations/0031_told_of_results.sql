-- When the students of a section were told by a letter that their results are out; those that were released before were told at once.
ALTER TABLE result_release ADD COLUMN told_at TEXT;
UPDATE result_release SET told_at = at;
