-- The names of sheets without opening each document, for lists of thousands.
ALTER TABLE sheets ADD COLUMN maker TEXT GENERATED ALWAYS AS (json_extract(body, '$.maker')) VIRTUAL;
ALTER TABLE sheets ADD COLUMN model TEXT GENERATED ALWAYS AS (json_extract(body, '$.model')) VIRTUAL;
CREATE INDEX sheets_by_name ON sheets (maker, model, id);

-- What a sheet said before it was changed: jobs keep the copy they began with, and here stands what has become of it since.
CREATE TABLE sheet_versions (
  id INTEGER PRIMARY KEY,
  sheet_id TEXT NOT NULL,
  body TEXT NOT NULL CHECK (json_valid (body)),
  stood_from TEXT NOT NULL
) STRICT;
CREATE INDEX sheet_versions_by_sheet ON sheet_versions (sheet_id, id);

CREATE TRIGGER sheet_before BEFORE UPDATE OF body ON sheets WHEN OLD.body <> NEW.body BEGIN
  INSERT INTO sheet_versions (sheet_id, body, stood_from) VALUES (OLD.id, OLD.body, OLD.changed_at);
END;
CREATE TRIGGER sheet_versions_are_kept BEFORE UPDATE ON sheet_versions BEGIN
  SELECT RAISE (ABORT, 'sheet versions are append-only');
END;
CREATE TRIGGER sheet_versions_stay BEFORE DELETE ON sheet_versions BEGIN
  SELECT RAISE (ABORT, 'sheet versions are append-only: nothing is deleted');
END;
