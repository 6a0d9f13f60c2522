-- As whom a provider knows somebody here: what it calls them for good, so that a sign-in given to somebody else over there lets nobody
-- into the account of who had it before.
CREATE TABLE sign_on_account (
  issuer TEXT NOT NULL,
  subject TEXT NOT NULL,
  person_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (issuer, subject),
  UNIQUE (issuer, person_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX sign_on_account_by_person ON sign_on_account (person_id);
