-- How far a figure swung to and fro while it was read, in its own unit.
ALTER TABLE readings ADD COLUMN swing REAL CHECK (swing >= 0);

-- Cautions that somebody has said to have read, by job; each is asked about once.
CREATE TABLE seen_cautions (
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  cautions TEXT NOT NULL CHECK (json_valid (cautions)),
  seen_at TEXT NOT NULL,
  by TEXT
) STRICT;
CREATE INDEX seen_cautions_by_job ON seen_cautions (job_id);

-- What a job waits for, and until when; the latest of a job counts, and 'nothing' ends a wait.
CREATE TABLE waits (
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  what TEXT NOT NULL CHECK (what IN ('charge', 'rest', 'part', 'nothing')),
  note TEXT,
  until TEXT,
  began_at TEXT NOT NULL,
  by TEXT
) STRICT;
CREATE INDEX waits_by_job ON waits (job_id, began_at);

CREATE TRIGGER tag_of_wait AFTER INSERT ON waits BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
