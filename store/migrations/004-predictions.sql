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

-- The repairs proven on machines of one sheet are asked for at every page of a job: they are counted as jobs close and open again.
CREATE TABLE proven (
  sheet_id TEXT NOT NULL,
  fault TEXT NOT NULL,
  times INTEGER NOT NULL,
  PRIMARY KEY (sheet_id, fault)
) STRICT, WITHOUT ROWID;

INSERT INTO proven (sheet_id, fault, times)
  SELECT json_extract(jobs.sheet, '$.id'), repairs.fault, count(*) FROM jobs JOIN repairs ON repairs.job_id = jobs.id
    WHERE jobs.ending = 'proven' AND repairs.fault IS NOT NULL GROUP BY 1, 2;

CREATE TRIGGER proven_more AFTER UPDATE OF ending ON jobs WHEN NEW.ending = 'proven' AND OLD.ending IS NOT 'proven' BEGIN
  INSERT INTO proven (sheet_id, fault, times)
    SELECT json_extract(NEW.sheet, '$.id'), fault, count(*) FROM repairs WHERE job_id = NEW.id AND fault IS NOT NULL GROUP BY fault
    ON CONFLICT (sheet_id, fault) DO UPDATE SET times = times + excluded.times;
END;

CREATE TRIGGER proven_less AFTER UPDATE OF ending ON jobs WHEN OLD.ending = 'proven' AND NEW.ending IS NOT 'proven' BEGIN
  INSERT INTO proven (sheet_id, fault, times)
    SELECT json_extract(OLD.sheet, '$.id'), fault, -count(*) FROM repairs WHERE job_id = OLD.id AND fault IS NOT NULL GROUP BY fault
    ON CONFLICT (sheet_id, fault) DO UPDATE SET times = times + excluded.times;
  DELETE FROM proven WHERE times <= 0;
END;
