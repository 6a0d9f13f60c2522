-- By which a file that an entry was made from names it, so that the same file is recognised when it comes again.
ALTER TABLE standard ADD COLUMN source TEXT;
CREATE INDEX standard_by_source ON standard (source) WHERE source IS NOT NULL;
