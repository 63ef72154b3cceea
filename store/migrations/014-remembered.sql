-- Hours or kilometres on the machine, where it counts them.
ALTER TABLE jobs ADD COLUMN use_count REAL CHECK (use_count >= 0);
ALTER TABLE jobs ADD COLUMN use_unit TEXT CHECK (use_unit IN ('h', 'km'));

-- How warm the workshop is by month, off the index alone.
CREATE INDEX jobs_air ON jobs (substr (opened_at, 6, 2), ambient_c);

-- What a machine's log warned of when its last job was closed.
CREATE TABLE foresights (
  unit_tag TEXT PRIMARY KEY REFERENCES units (tag),
  body TEXT NOT NULL CHECK (json_valid (body)),
  looked_at TEXT NOT NULL
) STRICT;

-- The part that was named, and with what odds, when the first repair of a job was recorded.
CREATE TABLE stated (
  job_id INTEGER PRIMARY KEY REFERENCES jobs (id),
  part TEXT NOT NULL,
  odds REAL NOT NULL CHECK (odds BETWEEN 0 AND 1),
  stated_at TEXT NOT NULL
) STRICT;

-- Every job in one narrow row: what records are filtered, counted and drawn by, without opening sheets. Kept up by the tables themselves.
CREATE TABLE records (
  job_id INTEGER PRIMARY KEY REFERENCES jobs (id),
  opened_at TEXT NOT NULL,
  closed_at TEXT,
  ending TEXT,
  unit_tag TEXT,
  nickname TEXT NOT NULL,
  sheet_id TEXT NOT NULL,
  model TEXT NOT NULL,
  family TEXT NOT NULL,
  kind TEXT,
  battery_age_years REAL,
  part_said TEXT,
  odds_said REAL,
  part_first TEXT,
  part_last TEXT,
  fault_last TEXT,
  repairs INTEGER NOT NULL DEFAULT 0,
  -- Minutes of hands on the machine and on the clock when it was closed last.
  hands REAL,
  clock REAL
) STRICT;
CREATE INDEX records_by_day ON records (opened_at);
CREATE INDEX records_by_sheet ON records (sheet_id, opened_at);
CREATE INDEX records_by_unit ON records (unit_tag, opened_at);
CREATE INDEX records_by_part ON records (part_last, opened_at);
CREATE INDEX readings_by_test ON readings (test, number, job_id);

-- All words of a job: whose, what was said, noted and done. A job's row goes by its number.
CREATE VIRTUAL TABLE record_words USING fts5 (words, prefix = '2 3');

INSERT INTO records (job_id, opened_at, closed_at, ending, unit_tag, nickname, sheet_id, model, family, kind, battery_age_years, part_first, part_last, fault_last, repairs)
  SELECT id, opened_at, closed_at, ending, unit_tag, nickname, json_extract (sheet, '$.id'), json_extract (sheet, '$.maker') || ' ' || json_extract (sheet, '$.model'),
    json_extract (sheet, '$.family'), json_extract (sheet, '$.kind'), battery_age_years,
    (SELECT part FROM repairs WHERE job_id = jobs.id ORDER BY id LIMIT 1),
    (SELECT part FROM repairs WHERE job_id = jobs.id ORDER BY id DESC LIMIT 1),
    (SELECT fault FROM repairs WHERE job_id = jobs.id ORDER BY id DESC LIMIT 1),
    (SELECT count(*) FROM repairs WHERE job_id = jobs.id)
  FROM jobs;
INSERT INTO record_words (rowid, words)
  SELECT id, coalesce (unit_tag || ' ', '') || nickname || ' ' || json_extract (sheet, '$.maker') || ' ' || json_extract (sheet, '$.model') || ' ' || words || ' ' || coalesce (closing_note, '')
    || ' ' || coalesce ((SELECT group_concat (part || ' ' || coalesce (found, '') || ' ' || done, ' ') FROM repairs WHERE job_id = jobs.id), '')
    || ' ' || coalesce ((SELECT group_concat (note, ' ') FROM readings WHERE job_id = jobs.id AND note IS NOT NULL), '')
    || ' ' || coalesce ((SELECT group_concat (reason, ' ') FROM skips WHERE job_id = jobs.id), '')
  FROM jobs;

CREATE TRIGGER record_of_job AFTER INSERT ON jobs BEGIN
  INSERT INTO records (job_id, opened_at, closed_at, ending, unit_tag, nickname, sheet_id, model, family, kind, battery_age_years)
    VALUES (NEW.id, NEW.opened_at, NEW.closed_at, NEW.ending, NEW.unit_tag, NEW.nickname, json_extract (NEW.sheet, '$.id'),
      json_extract (NEW.sheet, '$.maker') || ' ' || json_extract (NEW.sheet, '$.model'), json_extract (NEW.sheet, '$.family'), json_extract (NEW.sheet, '$.kind'), NEW.battery_age_years);
  INSERT INTO record_words (rowid, words) VALUES (NEW.id, coalesce (NEW.unit_tag || ' ', '') || NEW.nickname || ' ' || json_extract (NEW.sheet, '$.maker') || ' ' || json_extract (NEW.sheet, '$.model') || ' ' || NEW.words || ' ' || coalesce (NEW.closing_note, ''));
END;
CREATE TRIGGER record_of_ending AFTER UPDATE OF ending, closed_at, unit_tag ON jobs BEGIN
  UPDATE records SET closed_at = NEW.closed_at, ending = NEW.ending, unit_tag = NEW.unit_tag WHERE job_id = NEW.id;
END;
CREATE TRIGGER record_of_note AFTER UPDATE OF closing_note ON jobs WHEN NEW.closing_note IS NOT NULL BEGIN
  UPDATE record_words SET words = words || ' ' || NEW.closing_note WHERE rowid = NEW.id;
END;
CREATE TRIGGER record_of_tag AFTER UPDATE OF unit_tag ON jobs WHEN NEW.unit_tag IS NOT OLD.unit_tag BEGIN
  UPDATE record_words SET words = words || ' ' || coalesce (NEW.unit_tag, '') WHERE rowid = NEW.id;
END;
CREATE TRIGGER record_of_repair AFTER INSERT ON repairs BEGIN
  UPDATE records SET part_first = coalesce (part_first, NEW.part), part_last = NEW.part, fault_last = NEW.fault, repairs = repairs + 1 WHERE job_id = NEW.job_id;
  UPDATE record_words SET words = words || ' ' || NEW.part || ' ' || coalesce (NEW.found, '') || ' ' || NEW.done WHERE rowid = NEW.job_id;
END;
CREATE TRIGGER record_of_statement AFTER INSERT ON stated BEGIN
  UPDATE records SET part_said = NEW.part, odds_said = NEW.odds WHERE job_id = NEW.job_id;
END;
CREATE TRIGGER record_of_reading AFTER INSERT ON readings WHEN NEW.note IS NOT NULL BEGIN
  UPDATE record_words SET words = words || ' ' || NEW.note WHERE rowid = NEW.job_id;
END;
CREATE TRIGGER record_of_skip AFTER INSERT ON skips BEGIN
  UPDATE record_words SET words = words || ' ' || NEW.reason WHERE rowid = NEW.job_id;
END;

-- Minutes that tests took, from the gaps between the readings of closed jobs.
CREATE TABLE test_times (
  test TEXT PRIMARY KEY,
  times INTEGER NOT NULL,
  minutes REAL NOT NULL
) STRICT, WITHOUT ROWID;

-- Repairs that were proven, by what machine, by what use and in which year: what is learned from, counted as jobs close and open again.
CREATE TABLE lessons (
  sheet_id TEXT NOT NULL,
  family TEXT NOT NULL,
  kind TEXT NOT NULL,
  used_for TEXT NOT NULL,
  -- How old the battery was: 'new' under two years, 'middle' under five, 'old', or not known.
  age TEXT NOT NULL CHECK (age IN ('new', 'middle', 'old', '')),
  year INTEGER NOT NULL,
  fault TEXT NOT NULL,
  times INTEGER NOT NULL,
  PRIMARY KEY (sheet_id, family, kind, used_for, age, year, fault)
) STRICT, WITHOUT ROWID;

CREATE VIEW lesson_of_job AS
  SELECT jobs.id AS job_id, json_extract (jobs.sheet, '$.id') AS sheet_id, json_extract (jobs.sheet, '$.family') AS family,
    coalesce (json_extract (jobs.sheet, '$.kind'), '') AS kind, coalesce (units.used_for, '') AS used_for,
    CASE WHEN battery_age_years IS NULL THEN '' WHEN battery_age_years < 2 THEN 'new' WHEN battery_age_years < 5 THEN 'middle' ELSE 'old' END AS age,
    CAST (substr (jobs.opened_at, 1, 4) AS INTEGER) AS year, repairs.fault AS fault, count(*) AS times
  FROM jobs JOIN repairs ON repairs.job_id = jobs.id LEFT JOIN units ON units.tag = jobs.unit_tag WHERE repairs.fault IS NOT NULL GROUP BY jobs.id, repairs.fault;

INSERT INTO lessons SELECT sheet_id, family, kind, used_for, age, year, fault, sum (times) FROM lesson_of_job JOIN jobs ON jobs.id = job_id WHERE ending = 'proven' GROUP BY 1, 2, 3, 4, 5, 6, 7;

DROP TRIGGER proven_more;
DROP TRIGGER proven_less;
DROP TABLE proven;

CREATE TRIGGER lesson_more AFTER UPDATE OF ending ON jobs WHEN NEW.ending = 'proven' AND OLD.ending IS NOT 'proven' BEGIN
  INSERT INTO lessons (sheet_id, family, kind, used_for, age, year, fault, times)
    SELECT sheet_id, family, kind, used_for, age, year, fault, times FROM lesson_of_job WHERE job_id = NEW.id
    ON CONFLICT (sheet_id, family, kind, used_for, age, year, fault) DO UPDATE SET times = times + excluded.times;
END;
CREATE TRIGGER lesson_less AFTER UPDATE OF ending ON jobs WHEN OLD.ending = 'proven' AND NEW.ending IS NOT 'proven' BEGIN
  INSERT INTO lessons (sheet_id, family, kind, used_for, age, year, fault, times)
    SELECT sheet_id, family, kind, used_for, age, year, fault, -times FROM lesson_of_job WHERE job_id = OLD.id
    ON CONFLICT (sheet_id, family, kind, used_for, age, year, fault) DO UPDATE SET times = times + excluded.times;
  DELETE FROM lessons WHERE times <= 0;
END;
CREATE TRIGGER tag_of_lesson AFTER INSERT ON lessons BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_lesson_anew AFTER UPDATE ON lessons BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_lesson_gone AFTER DELETE ON lessons BEGIN DELETE FROM rail_tags; END;

-- Which kinds of learning are on; without a row all are.
CREATE TABLE learning (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  body TEXT NOT NULL CHECK (json_valid (body))
) STRICT;
CREATE TRIGGER tag_of_learning AFTER INSERT ON learning BEGIN DELETE FROM rail_tags; END;
CREATE TRIGGER tag_of_learning_anew AFTER UPDATE ON learning BEGIN DELETE FROM rail_tags; END;

-- Questions to the records that are asked again.
CREATE TABLE saved_views (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(name) BETWEEN 1 AND 60),
  query TEXT NOT NULL CHECK (length(query) <= 2000),
  kept_at TEXT NOT NULL,
  by TEXT
) STRICT;

-- The hands, chargers and hours that the day's plan reckons with; without a row the usual ones hold.
CREATE TABLE bay (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  body TEXT NOT NULL CHECK (json_valid (body))
) STRICT;

-- What somebody set by hand in the plan of a day: a job at a time, or not that day.
CREATE TABLE day_marks (
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  day TEXT NOT NULL,
  -- When it is to begin, ISO time; empty where it is dropped from that day.
  begins_at TEXT,
  marked_at TEXT NOT NULL,
  by TEXT,
  PRIMARY KEY (job_id, day)
) STRICT;

-- Minutes between a reading and the one before it, where the hands cannot have been elsewhere meanwhile. Each trigger reads one job alone:
-- through a view all readings would be looked through at every job that closes.
INSERT INTO test_times SELECT test, count(*), sum (gap) FROM (
    SELECT test, (julianday (taken_at) - julianday (lag (taken_at) OVER (PARTITION BY job_id ORDER BY taken_at))) * 1440 AS gap FROM readings WHERE job_id IN (SELECT id FROM jobs WHERE closed_at IS NOT NULL)
  ) WHERE gap > 0 AND gap <= 20 GROUP BY test;

CREATE TRIGGER times_more AFTER UPDATE OF closed_at ON jobs WHEN NEW.closed_at IS NOT NULL AND OLD.closed_at IS NULL BEGIN
  INSERT INTO test_times SELECT test, count(*), sum (gap) FROM (
      SELECT test, (julianday (taken_at) - julianday (lag (taken_at) OVER (ORDER BY taken_at))) * 1440 AS gap FROM readings WHERE job_id = NEW.id
    ) WHERE gap > 0 AND gap <= 20 GROUP BY test
    ON CONFLICT (test) DO UPDATE SET times = times + excluded.times, minutes = minutes + excluded.minutes;
END;
CREATE TRIGGER times_less AFTER UPDATE OF closed_at ON jobs WHEN NEW.closed_at IS NULL AND OLD.closed_at IS NOT NULL BEGIN
  INSERT INTO test_times SELECT test, -count(*), -sum (gap) FROM (
      SELECT test, (julianday (taken_at) - julianday (lag (taken_at) OVER (ORDER BY taken_at))) * 1440 AS gap FROM readings WHERE job_id = NEW.id
    ) WHERE gap > 0 AND gap <= 20 GROUP BY test
    ON CONFLICT (test) DO UPDATE SET times = times + excluded.times, minutes = minutes + excluded.minutes;
END;

-- By which a job is known in other workshops' databases: this one's own key and its number, or what it came with.
CREATE TABLE shop_key (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  key TEXT NOT NULL
) STRICT;
INSERT INTO shop_key (only, key) VALUES (1, lower (hex (randomblob (6))));
CREATE TABLE imported_jobs (
  origin TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL UNIQUE REFERENCES jobs (id)
) STRICT, WITHOUT ROWID;

-- What was pulled for a reading and has been put back since: any screen of the job sees what is still out.
CREATE TABLE put_backs (
  id TEXT PRIMARY KEY,
  job_id INTEGER NOT NULL REFERENCES jobs (id),
  -- The reading that it was pulled for.
  pulled_for TEXT NOT NULL,
  back_at TEXT NOT NULL,
  by TEXT
) STRICT;
CREATE INDEX put_backs_by_job ON put_backs (job_id);

-- Tags tell what lies ahead of a job as well: all are drawn anew.
DELETE FROM rail_tags;
