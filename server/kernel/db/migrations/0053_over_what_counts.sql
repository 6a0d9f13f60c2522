-- A word on a script is spoken over its readings as they count: after a carry-over by the version that they were carried to. It holds as
-- long as they are what they were then, or what they were before anything was carried over.
DROP TRIGGER reading_after_agreeing;
DROP TRIGGER reading_changed_after_agreeing;
DROP VIEW readings_now;
CREATE VIEW reading_as_it_counts AS
SELECT r.id, r.script_id, r.marker_id, r.version, r.state, coalesce(
  (SELECT c.mark FROM carried_reading c JOIN decision d ON d.id = c.decision_id
   WHERE c.reading_id = r.id AND c.version = r.version AND d.withdrawn_at IS NULL ORDER BY d.seq DESC LIMIT 1), r.mark) AS mark
FROM reading r;
CREATE TRIGGER reading_after_agreeing AFTER INSERT ON reading
WHEN EXISTS (SELECT 1 FROM agreed_mark WHERE script_id = NEW.script_id)
BEGIN
  UPDATE agreed_mark SET holds = over IN (
    (SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id)
     FROM reading_as_it_counts r WHERE r.script_id = NEW.script_id AND r.state = 'handed in'),
    (SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id)
     FROM reading r WHERE r.script_id = NEW.script_id AND r.state = 'handed in')) WHERE script_id = NEW.script_id;
END;
CREATE TRIGGER reading_changed_after_agreeing AFTER UPDATE OF state, version, mark ON reading
WHEN EXISTS (SELECT 1 FROM agreed_mark WHERE script_id = NEW.script_id)
BEGIN
  UPDATE agreed_mark SET holds = over IN (
    (SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id)
     FROM reading_as_it_counts r WHERE r.script_id = NEW.script_id AND r.state = 'handed in'),
    (SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id)
     FROM reading r WHERE r.script_id = NEW.script_id AND r.state = 'handed in')) WHERE script_id = NEW.script_id;
END;
