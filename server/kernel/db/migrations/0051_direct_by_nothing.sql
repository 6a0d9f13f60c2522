-- Marked directly, an assessment is marked by nothing of the library: with something left there it could neither be marked nor changed.
UPDATE assessment SET standard_id = NULL, version = version + 1 WHERE marking IN ('direct', 'completion') AND standard_id IS NOT NULL
  AND NOT EXISTS (SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id WHERE s.assessment_id = assessment.id);
