-- Who saw how others read a script, and whether their own reading was changed after that.
CREATE TABLE seen_others (
  reading_id TEXT PRIMARY KEY REFERENCES reading (id),
  at TEXT NOT NULL
) STRICT;
CREATE TRIGGER seen_others_stays BEFORE DELETE ON seen_others
BEGIN SELECT RAISE(ABORT, 'what was seen cannot be unseen'); END;
ALTER TABLE reading ADD COLUMN after_seeing INTEGER NOT NULL DEFAULT 0 CHECK (after_seeing IN (0, 1));
ALTER TABLE reading_state ADD COLUMN after_seeing INTEGER NOT NULL DEFAULT 0 CHECK (after_seeing IN (0, 1));
