-- Who must sign the results of a course, as roles, each by a person of its own.
ALTER TABLE course ADD COLUMN signers TEXT NOT NULL DEFAULT '["lead","external"]' CHECK (json_valid(signers));

-- What is shown of an issue without opening it, and who had to sign it when it was made.
ALTER TABLE issue ADD COLUMN signers TEXT NOT NULL DEFAULT '["lead"]' CHECK (json_valid(signers));
ALTER TABLE issue ADD COLUMN boundaries TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(boundaries));
ALTER TABLE issue ADD COLUMN counts TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(counts));
UPDATE issue SET
  boundaries = coalesce(json_extract(content, '$.boundaries'), '[]'),
  counts = (SELECT json_group_object(coalesce(grade, ''), n) FROM
    (SELECT json_extract(value, '$.grade') AS grade, count(*) AS n FROM json_each(issue.content, '$.results') GROUP BY 1));
DROP TRIGGER issue_is_frozen;
CREATE TRIGGER issue_is_frozen BEFORE UPDATE OF course_id, number, content, hash, made_at, signers, boundaries, counts ON issue
WHEN (SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.course_id <> OLD.course_id OR NEW.number <> OLD.number OR NEW.hash <> OLD.hash OR NEW.made_at <> OLD.made_at
  OR NEW.signers <> OLD.signers OR NEW.boundaries <> OLD.boundaries OR NEW.counts <> OLD.counts
BEGIN SELECT RAISE(ABORT, 'a confirmed issue never changes'); END;

-- The content that a signature was given to.
ALTER TABLE signature ADD COLUMN hash TEXT NOT NULL DEFAULT '';
UPDATE signature SET hash = (SELECT i.hash FROM issue i WHERE i.course_id = signature.course_id AND i.number = signature.number);
CREATE TRIGGER signature_stays BEFORE DELETE ON signature
BEGIN SELECT RAISE(ABORT, 'a signature is never deleted'); END;
CREATE TRIGGER signature_is_as_given BEFORE UPDATE ON signature
BEGIN SELECT RAISE(ABORT, 'a signature is never rewritten'); END;

-- What somebody has against an issue: while it stands, the issue does not count.
CREATE TABLE objection (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL,
  number INTEGER NOT NULL,
  person_id TEXT NOT NULL REFERENCES person (id),
  role TEXT NOT NULL,
  reason TEXT NOT NULL CHECK (length(reason) BETWEEN 1 AND 2000),
  at TEXT NOT NULL,
  taken_back_at TEXT,
  FOREIGN KEY (course_id, number) REFERENCES issue (course_id, number)
) STRICT;
CREATE INDEX objection_by_issue ON objection (course_id, number);
CREATE TRIGGER objection_stays BEFORE DELETE ON objection
BEGIN SELECT RAISE(ABORT, 'an objection is taken back, never deleted'); END;
CREATE TRIGGER objection_is_as_made BEFORE UPDATE OF id, course_id, number, person_id, role, reason, at ON objection
BEGIN SELECT RAISE(ABORT, 'an objection is taken back, never rewritten'); END;
