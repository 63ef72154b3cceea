-- The workshop, its meters, sheets, machines and jobs. Readings are append-only: a correction supersedes.
CREATE TABLE meters (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  lead_ohms REAL NOT NULL CHECK (lead_ohms >= 0),
  ohms_resolution REAL NOT NULL CHECK (ohms_resolution > 0),
  true_rms INTEGER NOT NULL CHECK (true_rms IN (0, 1)),
  diode_max_volts REAL NOT NULL CHECK (diode_max_volts > 0)
) STRICT;

CREATE TABLE shop (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  name TEXT NOT NULL,
  school TEXT NOT NULL,
  meter_id INTEGER NOT NULL REFERENCES meters (id)
) STRICT;

CREATE TABLE sheets (
  id TEXT PRIMARY KEY,
  body TEXT NOT NULL CHECK (json_valid(body)),
  changed_at TEXT NOT NULL
) STRICT;

CREATE TABLE units (
  tag TEXT PRIMARY KEY,
  nickname TEXT NOT NULL,
  sheet_id TEXT NOT NULL REFERENCES sheets (id),
  used_for TEXT NOT NULL
) STRICT;
CREATE INDEX units_by_sheet ON units (sheet_id);

CREATE TABLE jobs (
  id INTEGER PRIMARY KEY,
  unit_tag TEXT REFERENCES units (tag),
  nickname TEXT NOT NULL,
  -- The job's own copy of the sheet: a sheet edited later does not change what was judged.
  sheet TEXT NOT NULL CHECK (json_valid(sheet)),
  school TEXT NOT NULL,
  meter TEXT NOT NULL CHECK (json_valid(meter)),
  ambient_c REAL NOT NULL,
  battery_age_years REAL,
  complaint TEXT NOT NULL CHECK (json_valid(complaint)),
  words TEXT NOT NULL,
  opened_at TEXT NOT NULL,
  closed_at TEXT,
  -- How it ended: proven (repair proved), healthy (nothing failed), plain-cause (ended at intake), unproven.
  ending TEXT CHECK (ending IN ('proven', 'healthy', 'plain-cause', 'unproven')),
  closing_note TEXT,
  CHECK ((closed_at IS NULL) = (ending IS NULL))
) STRICT;
CREATE INDEX jobs_open ON jobs (opened_at) WHERE closed_at IS NULL;
CREATE INDEX jobs_closed ON jobs (closed_at) WHERE closed_at IS NOT NULL;
CREATE INDEX jobs_by_unit ON jobs (unit_tag, opened_at);

CREATE TABLE readings (
  -- Made by the client, so that sending a reading twice keeps it once.
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  test TEXT NOT NULL,
  at TEXT,
  rpm INTEGER,
  idle INTEGER NOT NULL DEFAULT 0 CHECK (idle IN (0, 1)),
  loads TEXT CHECK (loads IN ('off', 'normal', 'all')),
  number REAL,
  word TEXT,
  raw INTEGER NOT NULL CHECK (raw IN (0, 1)),
  lead_ohms REAL,
  hot INTEGER NOT NULL DEFAULT 0 CHECK (hot IN (0, 1)),
  rest_hours REAL,
  amps REAL,
  note TEXT,
  after_repair INTEGER NOT NULL DEFAULT 0 CHECK (after_repair IN (0, 1)),
  taken_at TEXT NOT NULL,
  supersedes TEXT UNIQUE REFERENCES readings (id),
  -- Why an earlier reading was superseded: mistyped, or taken again.
  supersedes_why TEXT CHECK (supersedes_why IN ('mistyped', 'taken-again')),
  CHECK ((number IS NULL) <> (word IS NULL)),
  CHECK ((supersedes IS NULL) = (supersedes_why IS NULL))
) STRICT;
CREATE INDEX readings_by_job ON readings (job_id, taken_at);

CREATE TRIGGER readings_are_kept BEFORE UPDATE ON readings BEGIN
  SELECT RAISE (ABORT, 'readings are append-only: a correction supersedes');
END;
CREATE TRIGGER readings_stay BEFORE DELETE ON readings BEGIN
  SELECT RAISE (ABORT, 'readings are append-only: nothing is deleted');
END;

CREATE TABLE skips (
  -- Made by the client, as for readings.
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  step TEXT NOT NULL,
  reason TEXT NOT NULL,
  skipped_at TEXT NOT NULL
) STRICT;
CREATE INDEX skips_by_job ON skips (job_id);

CREATE TABLE repairs (
  id INTEGER PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  part TEXT NOT NULL,
  fault TEXT,
  done TEXT NOT NULL,
  repaired_at TEXT NOT NULL
) STRICT;
CREATE INDEX repairs_by_job ON repairs (job_id);
