-- Amplifiers as a workshop keeps them: a sheet each.
CREATE TABLE amplifier (
    id UUID PRIMARY KEY,
    owner_id UUID NOT NULL REFERENCES owner (id),
    name TEXT NOT NULL,
    maker TEXT NOT NULL,
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX amplifier_owner ON amplifier (owner_id, name);
