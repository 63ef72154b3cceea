-- What the shop has beside a multimeter, as a list of tool ids: nothing else is asked for.
ALTER TABLE shop ADD COLUMN tools TEXT NOT NULL DEFAULT '["test-lamp"]' CHECK (json_valid(tools));

-- The last advice of each job, with a hash of the facts and the edition it was made from: every page says the same, at once.
CREATE TABLE advices (
  job_id INTEGER PRIMARY KEY REFERENCES jobs (id),
  facts TEXT NOT NULL,
  body TEXT NOT NULL CHECK (json_valid(body)),
  advised_at TEXT NOT NULL
) STRICT;
