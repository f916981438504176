-- What a build that came in a file is recognised by when the file comes again.
ALTER TABLE build ADD COLUMN origin UUID;
CREATE INDEX build_origin ON build (owner_id, origin);
