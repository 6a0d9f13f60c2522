-- Somebody is found by name or mail address, in any case of letters.
CREATE INDEX person_by_name ON person (name COLLATE NOCASE);
CREATE INDEX person_by_email ON person (email COLLATE NOCASE);
