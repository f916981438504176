-- Listening sessions. What is asked and of what is fixed when a session begins; answers are given once and stay sealed until it ends.
CREATE TABLE listening (
    id UUID PRIMARY KEY,
    build_id UUID NOT NULL REFERENCES build (id),
    -- what listeners type on their phones
    code TEXT NOT NULL UNIQUE,
    -- what the helper's page is opened with
    helper_key UUID NOT NULL,
    document JSONB NOT NULL,
    -- what each candidate is played through, where the program switches
    sounds JSONB NOT NULL,
    -- the hearing a helper has set up
    hearing INTEGER NOT NULL DEFAULT 0,
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    -- when the order was first shown to a helper
    shown_at TIMESTAMPTZ,
    ended_at TIMESTAMPTZ,
    outcome JSONB,
    deleted_at TIMESTAMPTZ
);
CREATE INDEX listening_build ON listening (build_id, created_at);
-- A listener's key is what his phone answers with.
CREATE TABLE listener (
    id UUID PRIMARY KEY,
    listening_id UUID NOT NULL REFERENCES listening (id),
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    joined_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    UNIQUE (listening_id, number)
);
CREATE TABLE slip (
    listener_id UUID NOT NULL REFERENCES listener (id),
    hearing INTEGER NOT NULL,
    document JSONB NOT NULL,
    given_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    PRIMARY KEY (listener_id, hearing)
);
