-- Rooms as a workshop keeps them: used by any number of builds, each with a copy of its own.
CREATE TABLE room (
    id UUID PRIMARY KEY,
    owner_id UUID NOT NULL REFERENCES owner (id),
    name TEXT NOT NULL,
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    deleted_at TIMESTAMPTZ
);
CREATE INDEX room_owner ON room (owner_id, name);
