-- Which jack an instrument's lead sits in, what its leads and its last digit are where they are its own, and which one is the second meter.
ALTER TABLE instruments ADD COLUMN jack TEXT CHECK (jack IN ('volts', 'amps', 'milliamps', 'clamp'));
ALTER TABLE instruments ADD COLUMN lead_ohms REAL CHECK (lead_ohms BETWEEN 0 AND 5);
ALTER TABLE instruments ADD COLUMN ohms_resolution REAL CHECK (ohms_resolution BETWEEN 0.0001 AND 10);
ALTER TABLE instruments ADD COLUMN second_meter INTEGER NOT NULL DEFAULT 0 CHECK (second_meter IN (0, 1));

-- On which meter a reading was taken, where it was not the job's own.
ALTER TABLE readings ADD COLUMN ohms_resolution REAL CHECK (ohms_resolution > 0);
ALTER TABLE readings ADD COLUMN second_meter INTEGER NOT NULL DEFAULT 0 CHECK (second_meter IN (0, 1));
