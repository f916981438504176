-- What the workshop keeps beside a revision while it is built: prices, steps that are done, notes. It was part of the design.
CREATE TABLE work_plan (
    revision_id UUID PRIMARY KEY REFERENCES revision (id),
    document JSONB NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    updated_at TIMESTAMPTZ NOT NULL DEFAULT now()
);

INSERT INTO work_plan (revision_id, document)
SELECT id, jsonb_strip_nulls(jsonb_build_object('prices', document -> 'prices', 'steps', document -> 'steps'))
FROM revision
WHERE document ?| ARRAY['prices', 'steps'];

UPDATE revision SET document = document - ARRAY['prices', 'steps'] WHERE document ?| ARRAY['prices', 'steps'];
