CREATE TABLE owner (
    id UUID PRIMARY KEY,
    name TEXT NOT NULL,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now()
);

CREATE TABLE woofer (
    id UUID PRIMARY KEY,
    owner_id UUID NOT NULL REFERENCES owner (id),
    name TEXT NOT NULL,
    maker TEXT NOT NULL,
    size_in DOUBLE PRECISION,
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX woofer_owner ON woofer (owner_id, name);

CREATE TABLE build (
    id UUID PRIMARY KEY,
    owner_id UUID NOT NULL REFERENCES owner (id),
    name TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX build_owner ON build (owner_id, created_at);

-- A revision is its design document; the columns beside it are what is searched.
CREATE TABLE revision (
    id UUID PRIMARY KEY,
    build_id UUID NOT NULL REFERENCES build (id),
    letter TEXT NOT NULL,
    document JSONB NOT NULL,
    family TEXT NOT NULL,
    woofer_name TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ,
    UNIQUE (build_id, letter)
);

-- Every saved state of a revision, the newest too.
CREATE TABLE history (
    id BIGSERIAL PRIMARY KEY,
    revision_id UUID NOT NULL REFERENCES revision (id),
    version INTEGER NOT NULL,
    document JSONB NOT NULL,
    saved_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    UNIQUE (revision_id, version)
);
