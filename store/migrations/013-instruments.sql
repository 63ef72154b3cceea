-- Instruments that speak over the workshop's network: where each is found, and how it speaks.
CREATE TABLE instruments (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  language TEXT NOT NULL CHECK (language IN ('scpi', 'lines')),
  host TEXT NOT NULL,
  port INTEGER NOT NULL CHECK (port BETWEEN 1 AND 65535)
) STRICT;
