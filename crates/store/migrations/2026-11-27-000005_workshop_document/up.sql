-- What belongs to a workshop and to no single build: its currency, its tools, the pieces of board on its rack.
CREATE TABLE workshop (
    owner_id UUID PRIMARY KEY REFERENCES owner (id),
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now()
);
