-- What a builder writes down. The key is made where the entry is written, so that one that is sent twice is kept once.
CREATE TABLE log_entry (
    id UUID PRIMARY KEY,
    build_id UUID NOT NULL REFERENCES build (id),
    kind TEXT NOT NULL,
    document JSONB NOT NULL,
    -- when it was written, by the server's clock
    written_at TIMESTAMPTZ NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX log_entry_build ON log_entry (build_id, written_at DESC, id);
-- Photos by their content: the same are kept once. What they are kept as holds the picture alone.
CREATE TABLE photo (
    digest BYTEA PRIMARY KEY,
    content BYTEA NOT NULL,
    small BYTEA NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    CONSTRAINT photo_digest CHECK (digest = sha256(content))
);
CREATE TABLE log_photo (
    entry_id UUID NOT NULL REFERENCES log_entry (id),
    digest BYTEA NOT NULL REFERENCES photo (digest),
    PRIMARY KEY (entry_id, digest)
);
CREATE INDEX log_photo_digest ON log_photo (digest);
