-- Of an issue whose names were taken out: the hash of what is left of it. Its own hash stays that of what was confirmed.
ALTER TABLE issue ADD COLUMN nameless_hash TEXT;

-- Words and numbers that name somebody are taken out of these too where the course is nameless, and only there.
DROP TRIGGER decision_is_as_made;
CREATE TRIGGER decision_is_as_made BEFORE UPDATE OF id, course_id, seq, kind, changes, reason, made_by, made_at ON decision
WHEN (SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.id <> OLD.id OR NEW.course_id <> OLD.course_id OR NEW.seq <> OLD.seq OR NEW.kind <> OLD.kind
  OR NEW.made_by <> OLD.made_by OR NEW.made_at <> OLD.made_at
BEGIN SELECT RAISE(ABORT, 'a decision is withdrawn, never rewritten'); END;

DROP TRIGGER objection_is_as_made;
CREATE TRIGGER objection_is_as_made BEFORE UPDATE OF id, course_id, number, person_id, role, reason, at ON objection
WHEN (SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.id <> OLD.id OR NEW.course_id <> OLD.course_id OR NEW.number <> OLD.number OR NEW.person_id <> OLD.person_id
  OR NEW.role <> OLD.role OR NEW.at <> OLD.at
BEGIN SELECT RAISE(ABORT, 'an objection is taken back, never rewritten'); END;

DROP TRIGGER hand_over_is_as_sent;
CREATE TRIGGER hand_over_is_as_sent BEFORE UPDATE OF id, course_id, number, by_id, at, sent ON hand_over
WHEN (SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.id <> OLD.id OR NEW.course_id <> OLD.course_id OR NEW.number <> OLD.number OR NEW.by_id <> OLD.by_id OR NEW.at <> OLD.at
BEGIN SELECT RAISE(ABORT, 'a hand-over is never rewritten'); END;

DROP TRIGGER hand_over_is_answered_once;
CREATE TRIGGER hand_over_is_answered_once BEFORE UPDATE OF receipt, refused, answered_at ON hand_over
WHEN OLD.receipt IS NOT NULL AND ((SELECT nameless_at FROM course WHERE id = OLD.course_id) IS NULL
  OR NEW.receipt IS NOT OLD.receipt OR NEW.answered_at IS NOT OLD.answered_at)
BEGIN SELECT RAISE(ABORT, 'a hand-over is answered once'); END;
