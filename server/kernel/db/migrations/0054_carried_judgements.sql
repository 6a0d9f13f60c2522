-- An overall judgement is carried over to another version of its scale as readings by a rubric are: to a label of that version.
ALTER TABLE carried_reading ADD COLUMN judgement TEXT;
DROP VIEW carried_in_force;
CREATE VIEW carried_in_force AS
SELECT reading_id, version, standard_id, picks, judgement, mark FROM (
  SELECT c.*, row_number() OVER (PARTITION BY c.reading_id ORDER BY d.seq DESC) AS place
  FROM carried_reading c JOIN decision d ON d.id = c.decision_id WHERE d.withdrawn_at IS NULL
) WHERE place = 1;
