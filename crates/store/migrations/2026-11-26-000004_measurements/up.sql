-- What was measured at a build. The samples are kept by their content, so that the same are kept once.
CREATE TABLE samples (
    digest BYTEA PRIMARY KEY,
    content BYTEA NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    CONSTRAINT samples_digest CHECK (digest = sha256(content))
);
CREATE TABLE measurement (
    id UUID PRIMARY KEY,
    build_id UUID NOT NULL REFERENCES build (id),
    revision_id UUID REFERENCES revision (id),
    digest BYTEA NOT NULL REFERENCES samples (digest),
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX measurement_build ON measurement (build_id, created_at);
CREATE INDEX measurement_revision ON measurement (revision_id);
CREATE INDEX measurement_samples ON measurement (digest);
