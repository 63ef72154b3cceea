-- A battery charged fully between two readings is another state of the machine.
ALTER TABLE readings ADD COLUMN charged INTEGER NOT NULL DEFAULT 0 CHECK (charged IN (0, 1));

-- How many repairs had been recorded when the reading was taken: what was mended by then.
ALTER TABLE readings ADD COLUMN repairs INTEGER NOT NULL DEFAULT 0 CHECK (repairs >= 0);

-- What the screen said had failed when the repair was recorded, in words: the record keeps it whatever later editions say.
ALTER TABLE repairs ADD COLUMN found TEXT CHECK (length(found) <= 500);

-- Charts drawn from a machine's circuit, kept under a hash of its sheet and of the edition that drew them.
CREATE TABLE atlases (
  key TEXT PRIMARY KEY,
  body TEXT NOT NULL CHECK (json_valid(body)),
  drawn_at TEXT NOT NULL
) STRICT;

-- What the shop charges; without a row the assumed prices hold.
CREATE TABLE prices (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- The repairs of one model that the shop has proven are asked for with every bench page.
CREATE INDEX jobs_by_model ON jobs (json_extract(sheet, '$.id'), ending);
