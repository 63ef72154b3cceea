-- Traces of a job as they were kept: their phases, and what is drawn of them; the log itself stays where it was.
CREATE TABLE traces (
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  name TEXT NOT NULL,
  seconds REAL NOT NULL,
  rate REAL NOT NULL,
  after_repair INTEGER NOT NULL,
  phases TEXT NOT NULL CHECK (json_valid (phases)),
  drawn TEXT NOT NULL CHECK (json_valid (drawn)),
  kept_at TEXT NOT NULL,
  by TEXT
) STRICT;
CREATE INDEX traces_by_job ON traces (job_id);

CREATE TRIGGER traces_are_kept BEFORE UPDATE ON traces BEGIN
  SELECT RAISE (ABORT, 'traces are append-only');
END;
CREATE TRIGGER traces_stay BEFORE DELETE ON traces BEGIN
  SELECT RAISE (ABORT, 'traces are append-only: nothing is deleted');
END;
