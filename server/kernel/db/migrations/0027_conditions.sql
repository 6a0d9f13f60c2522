-- What grades ask of single parts of the work, as a course was started with; decided ones stand in the decisions.
ALTER TABLE course ADD COLUMN conditions TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(conditions));
