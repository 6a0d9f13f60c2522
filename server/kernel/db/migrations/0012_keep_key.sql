-- With what a person's browser keeps unsent work unreadable until they sign in again; 32 random bytes.
ALTER TABLE person ADD COLUMN keep_key BLOB;
UPDATE person SET keep_key = randomblob(32);
