-- The version of the course that a decision made, and that taking it back made: what was decided since something was tried is found by it.
ALTER TABLE decision ADD COLUMN version INTEGER;
ALTER TABLE decision ADD COLUMN withdrawn_version INTEGER;
-- By change: the version of the course that it was tried on.
ALTER TABLE trial ADD COLUMN since TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(since));
