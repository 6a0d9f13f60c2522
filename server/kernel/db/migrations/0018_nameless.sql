-- When a course's names and works were erased; its figures and decisions stay.
ALTER TABLE course ADD COLUMN nameless_at TEXT;

-- What was confirmed never changes, but that names are taken out of it where the course is made nameless; its hash stays what it was.
DROP TRIGGER issue_is_frozen;
CREATE TRIGGER issue_is_frozen BEFORE UPDATE OF course_id, number, content, hash, made_at ON issue
WHEN (SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.course_id <> OLD.course_id OR NEW.number <> OLD.number OR NEW.hash <> OLD.hash OR NEW.made_at <> OLD.made_at
BEGIN SELECT RAISE(ABORT, 'a confirmed issue never changes'); END;
