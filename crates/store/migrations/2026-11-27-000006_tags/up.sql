-- Words a builder sorts his builds by.
ALTER TABLE build ADD COLUMN tags TEXT[] NOT NULL DEFAULT '{}';
