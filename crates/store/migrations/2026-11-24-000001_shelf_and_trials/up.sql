-- A woofer's document was its sheet; now it keeps the frame once and the figures in parameter sets.
UPDATE woofer SET document = jsonb_build_object(
    'format', 'oak-drum-woofer',
    'version', 1,
    'woofer', document - ARRAY['fs_hz', 'qms', 'qes', 'qts', 'vas_l', 're_ohm', 'sd_cm2', 'le_mh', 'l2_mh', 'r2_ohm',
        'mms_g', 'cms_mm_per_n', 'rms_n_s_per_m', 'bl_t_m', 'sensitivity_db'],
    'sets', jsonb_build_array(jsonb_build_object(
        'provenance', 'data_sheet',
        'figures', document - ARRAY['name', 'maker', 'size_in', 'xmax_mm', 'power_w', 'nominal_ohm', 'cutout_mm',
            'depth_mm', 'displacement_l', 'weight_kg'])),
    'in_use', 0);

-- A search of the shelf for a build's brief: the question, and which of its parts are done.
CREATE TABLE trial (
    id UUID PRIMARY KEY,
    owner_id UUID NOT NULL REFERENCES owner (id),
    build_id UUID NOT NULL REFERENCES build (id),
    goal JSONB NOT NULL,
    counts INTEGER[] NOT NULL,
    families TEXT[] NOT NULL,
    woofers INTEGER NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('running', 'stopped', 'done')),
    created_at TIMESTAMPTZ NOT NULL DEFAULT now(),
    finished_at TIMESTAMPTZ
);
CREATE INDEX trial_owner ON trial (owner_id);
CREATE INDEX trial_build ON trial (build_id, created_at);
CREATE INDEX trial_running ON trial (created_at) WHERE state = 'running';

-- A part is claimed by one worker for a while; one whose worker died is claimed again.
CREATE TABLE trial_part (
    trial_id UUID NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    part INTEGER NOT NULL,
    sheets JSONB NOT NULL,
    size INTEGER NOT NULL,
    state TEXT NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'claimed', 'done', 'given_up')),
    claimed_by UUID,
    claimed_until TIMESTAMPTZ,
    attempts INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (trial_id, part)
);
CREATE INDEX trial_part_open ON trial_part (trial_id, part) WHERE state IN ('waiting', 'claimed');

CREATE TABLE trial_result (
    id BIGSERIAL PRIMARY KEY,
    trial_id UUID NOT NULL REFERENCES trial (id) ON DELETE CASCADE,
    woofer_id UUID NOT NULL,
    name TEXT NOT NULL,
    maker TEXT NOT NULL,
    count INTEGER NOT NULL,
    family TEXT NOT NULL,
    verdict INTEGER NOT NULL,
    cost_db DOUBLE PRECISION,
    spare_db DOUBLE PRECISION,
    reaches_hz DOUBLE PRECISION,
    f3_hz DOUBLE PRECISION,
    outside_l DOUBLE PRECISION,
    price DOUBLE PRECISION,
    weight_kg DOUBLE PRECISION,
    sheet JSONB NOT NULL,
    outcome JSONB NOT NULL,
    UNIQUE (trial_id, woofer_id, count, family)
);
CREATE INDEX trial_result_best ON trial_result (trial_id, verdict, cost_db);
