-- What is listed of issues is read without walking over their contents, which are many megabytes each.
CREATE INDEX issue_heads ON issue (course_id, number DESC, hash, made_at, signers, boundaries, counts, reopened_by, reopened_at, reopened_reason);
