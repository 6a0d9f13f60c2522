-- Raised by every write to a trial, so that two windows of one person do not write over each other's.
ALTER TABLE trial ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
