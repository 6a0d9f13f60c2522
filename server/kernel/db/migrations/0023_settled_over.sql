-- An agreed mark says over which readings it was agreed: [who, version, mark] of each. Readings that came or changed since open the
-- script again; so does a decision to do so, which has no mark.
CREATE TABLE agreed_over (
  script_id TEXT NOT NULL REFERENCES script (id),
  decision_id TEXT NOT NULL REFERENCES decision (id),
  mark REAL,
  rule TEXT CHECK (json_valid(rule)),
  in_force INTEGER NOT NULL CHECK (in_force IN (0, 1)),
  over TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(over)),
  holds INTEGER NOT NULL DEFAULT 1 CHECK (holds IN (0, 1)),
  PRIMARY KEY (script_id, decision_id),
  CHECK ((mark IS NULL) = (rule IS NULL))
) STRICT;
INSERT INTO agreed_over (script_id, decision_id, mark, rule, in_force, over)
SELECT a.script_id, a.decision_id, a.mark, a.rule, a.in_force,
  (SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id) FROM reading r
   WHERE r.script_id = a.script_id AND r.state = 'handed in'
     -- A time that is still to come says nothing of when it came.
     AND (r.handed_in_at <= d.made_at OR r.handed_in_at > strftime('%Y-%m-%dT%H:%M:%fZ', 'now')))
FROM agreed_mark a JOIN decision d ON d.id = a.decision_id;
DROP TABLE agreed_mark;
ALTER TABLE agreed_over RENAME TO agreed_mark;
CREATE UNIQUE INDEX one_agreed_mark_in_force ON agreed_mark (script_id) WHERE in_force = 1;
CREATE INDEX agreed_by_decision ON agreed_mark (decision_id);

CREATE VIEW readings_now AS
SELECT r.script_id, json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id) AS readings
FROM reading r WHERE r.state = 'handed in' GROUP BY r.script_id;
UPDATE agreed_mark SET holds = (over = coalesce((SELECT n.readings FROM readings_now n WHERE n.script_id = agreed_mark.script_id), '[]'));

CREATE TRIGGER reading_after_agreeing AFTER INSERT ON reading
WHEN EXISTS (SELECT 1 FROM agreed_mark WHERE script_id = NEW.script_id)
BEGIN
  UPDATE agreed_mark SET holds = (over = coalesce((SELECT n.readings FROM readings_now n WHERE n.script_id = NEW.script_id), '[]'))
  WHERE script_id = NEW.script_id;
END;
CREATE TRIGGER reading_changed_after_agreeing AFTER UPDATE OF state, version, mark ON reading
WHEN EXISTS (SELECT 1 FROM agreed_mark WHERE script_id = NEW.script_id)
BEGIN
  UPDATE agreed_mark SET holds = (over = coalesce((SELECT n.readings FROM readings_now n WHERE n.script_id = NEW.script_id), '[]'))
  WHERE script_id = NEW.script_id;
END;

-- The last word on each script; no mark where it was opened again since, by a reading or by a decision.
CREATE VIEW last_word AS
SELECT script_id, decision_id, iif(holds = 1, mark, NULL) AS mark, rule, over FROM agreed_mark WHERE in_force = 1;

-- Further readings that the lead asked for one by one, and why; sharing out leaves them where they are.
ALTER TABLE allotment ADD COLUMN asked_because TEXT;
