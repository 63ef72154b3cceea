-- What a machine at some temperature, with some parts mended, would show at every reading: worked out once, sent to every page that asks.
CREATE TABLE predictions (
  key TEXT PRIMARY KEY,
  body BLOB NOT NULL,
  made_at TEXT NOT NULL
) STRICT;

-- The advice to a job as it was found stands beside the advice to it as it is now: a report of one takes nothing from the other.
DROP TABLE advices;
CREATE TABLE advices (
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  facts TEXT NOT NULL,
  body TEXT NOT NULL CHECK (json_valid(body)),
  advised_at TEXT NOT NULL,
  PRIMARY KEY (job_id, facts)
) STRICT;
