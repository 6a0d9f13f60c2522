-- A private calendar address is known by its hash alone, as every other way in is.
UPDATE calendar_address SET token = sha256(token);
ALTER TABLE calendar_address RENAME COLUMN token TO token_hash;
