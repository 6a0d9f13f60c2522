-- Few scripts have a remark, and a course has up to a million scripts: those few are found by their students.
CREATE INDEX script_with_remark ON script (student_id) WHERE remark <> '';
