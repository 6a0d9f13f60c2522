-- What changed since a sheet was taken out is found from those few changes, and not by asking every script for its latest.
CREATE INDEX script_state_by_time ON script_state (at);
