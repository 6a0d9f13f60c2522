-- Looked up by these on every page, and by nothing else that has an index.
CREATE INDEX carried_by_reading ON carried_reading (reading_id);
CREATE INDEX agreed_by_decision ON agreed_mark (decision_id);
CREATE INDEX role_of_person ON course_role (person_id);
CREATE INDEX look_by_course ON look (course_id);
