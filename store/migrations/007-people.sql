-- Who may sign in where Uvrel is reached from other machines; of a password only its scrypt key is kept.
CREATE TABLE people (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(name) BETWEEN 1 AND 40),
  secret TEXT NOT NULL,
  added_at TEXT NOT NULL
) STRICT;

-- Sessions under a hash of their token: who reads the database cannot take one over.
CREATE TABLE sessions (
  token TEXT PRIMARY KEY,
  person_id INTEGER NOT NULL REFERENCES people (id),
  begun_at TEXT NOT NULL,
  seen_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Who did it, by the name they had then; empty where nobody was asked.
ALTER TABLE jobs ADD COLUMN opened_by TEXT;
ALTER TABLE jobs ADD COLUMN closed_by TEXT;
ALTER TABLE readings ADD COLUMN by TEXT;
ALTER TABLE skips ADD COLUMN by TEXT;
ALTER TABLE repairs ADD COLUMN by TEXT;
ALTER TABLE endings ADD COLUMN closed_by TEXT;
ALTER TABLE endings ADD COLUMN reopened_by TEXT;

-- How many backups are kept of the last days, weeks and months; without a row the usual rule holds.
CREATE TABLE backup_rule (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- What the rail shows of a job, drawn once: it is taken down as soon as something about the job changes.
CREATE TABLE rail_tags (
  job_id INTEGER PRIMARY KEY REFERENCES jobs (id),
  edition TEXT NOT NULL,
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

CREATE TRIGGER tag_of_reading AFTER INSERT ON readings BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
CREATE TRIGGER tag_of_skip AFTER INSERT ON skips BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
CREATE TRIGGER tag_of_repair AFTER INSERT ON repairs BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
CREATE TRIGGER tag_of_advice AFTER INSERT ON advices BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
CREATE TRIGGER tag_of_advice_anew AFTER UPDATE ON advices BEGIN DELETE FROM rail_tags WHERE job_id = NEW.job_id; END;
CREATE TRIGGER tag_of_job AFTER UPDATE ON jobs BEGIN DELETE FROM rail_tags WHERE job_id = NEW.id; END;
-- Prices, tools and proven repairs are part of what the advice to every job is made from.
CREATE TRIGGER tag_of_shop AFTER UPDATE ON shop BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_prices AFTER INSERT ON prices BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_prices_anew AFTER UPDATE ON prices BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_proven AFTER INSERT ON proven BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_proven_anew AFTER UPDATE ON proven BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_proven_gone AFTER DELETE ON proven BEGIN DELETE FROM rail_tags; END;
