-- By which rule an assessment was shared out, and how many readings were wanted before: it is begun from again, and taken back whole.
ALTER TABLE shared_out ADD COLUMN rule TEXT CHECK (rule IS NULL OR json_valid(rule));
ALTER TABLE shared_out ADD COLUMN wanted_before INTEGER CHECK (wanted_before >= 1);
