-- A remark for the student with a mark that is typed and not read; in a state nothing stands where that state left it as it was.
ALTER TABLE script ADD COLUMN remark TEXT NOT NULL DEFAULT '';
ALTER TABLE script_state ADD COLUMN remark TEXT;
