-- People come in by one-time links, see their own sessions, and what concerns the installation is kept on a list.
-- An empty passphrase hash is somebody who was invited and has chosen none yet.
ALTER TABLE person ADD COLUMN email TEXT CHECK (email LIKE '%_@_%');
ALTER TABLE person ADD COLUMN last_sign_in TEXT;
ALTER TABLE person ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
-- Student numbers and the like of other systems are the roll's; this is the id by which people come from a roster.
ALTER TABLE person ADD COLUMN external_id TEXT;

CREATE TABLE way_in (
  token_hash TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES person (id),
  kind TEXT NOT NULL CHECK (kind IN ('invitation', 'reset')),
  by_id TEXT REFERENCES person (id),
  at TEXT NOT NULL,
  ends_at TEXT NOT NULL,
  ended TEXT CHECK (ended IN ('used', 'replaced'))
) STRICT;
CREATE INDEX way_in_by_person ON way_in (person_id, ended);

ALTER TABLE session ADD COLUMN id TEXT;
ALTER TABLE session ADD COLUMN browser TEXT NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN seen_at TEXT;
UPDATE session SET id = lower(hex(randomblob(8))), seen_at = created_at;
CREATE UNIQUE INDEX session_by_id ON session (id);

CREATE TABLE audit (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  kind TEXT NOT NULL,
  -- Who did it; nobody where they did not get in.
  by_id TEXT REFERENCES person (id),
  about_id TEXT REFERENCES person (id),
  course_id TEXT REFERENCES course (id),
  words TEXT NOT NULL
) STRICT;
CREATE INDEX audit_by_time ON audit (at, id);
CREATE TRIGGER audit_stays BEFORE DELETE ON audit
BEGIN SELECT RAISE(ABORT, 'what was noted is never deleted'); END;
CREATE TRIGGER audit_is_so BEFORE UPDATE ON audit
BEGIN SELECT RAISE(ABORT, 'what was noted is never rewritten'); END;

-- Letters that belong to no course, as the post has them: who was told what and when, without the link itself.
CREATE TABLE notice (
  id TEXT PRIMARY KEY,
  to_id TEXT NOT NULL REFERENCES person (id),
  subject TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;

-- A course that is put away can be read and not written.
ALTER TABLE course ADD COLUMN away_at TEXT;
-- One made by mistake is nobody's any more; its row stays for what refers to it.
ALTER TABLE course ADD COLUMN removed_at TEXT;
