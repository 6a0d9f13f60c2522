-- A proposal that its reader withdrew before it was answered; it stays in what the two said to each other.
ALTER TABLE between_two ADD COLUMN withdrawn_at TEXT;
