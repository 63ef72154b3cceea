-- The standard in which a tester gave its cranking amps; absent where it is the usual one.
ALTER TABLE readings ADD COLUMN rating TEXT CHECK (rating IN ('sae', 'en', 'iec', 'din', 'ca'));
