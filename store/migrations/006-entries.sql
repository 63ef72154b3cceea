-- When the lead zero of a job was taken: an older one that arrives late does not take its place.
ALTER TABLE jobs ADD COLUMN lead_zero_at TEXT;

-- What a form that was sent did, by the number its page gave it: pressed twice on a slow line it does one thing.
CREATE TABLE sent_forms (
  id TEXT PRIMARY KEY,
  leads_to TEXT NOT NULL,
  sent_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- How a job that was opened again had ended before, each as it was said then.
CREATE TABLE endings (
  id INTEGER PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  ending TEXT NOT NULL,
  note TEXT,
  closed_at TEXT NOT NULL,
  reopened_at TEXT NOT NULL
) STRICT;
CREATE INDEX endings_by_job ON endings (job_id);

CREATE TRIGGER endings_are_kept BEFORE UPDATE ON endings BEGIN
  SELECT RAISE (ABORT, 'endings are append-only');
END;
CREATE TRIGGER endings_stay BEFORE DELETE ON endings BEGIN
  SELECT RAISE (ABORT, 'endings are append-only: nothing is deleted');
END;
