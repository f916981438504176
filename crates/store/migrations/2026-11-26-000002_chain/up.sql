-- What a search is after keeps the amplifier and what lies before the woofers as a signal chain.
UPDATE trial SET goal = (goal - 'amplifier' - 'source') || jsonb_build_object('chain', jsonb_strip_nulls(jsonb_build_object(
    'amplifier', goal->'amplifier',
    'cable', CASE WHEN goal ? 'source' THEN jsonb_build_object('kind', 'resistance', 'lead_resistance_ohm',
        COALESCE((goal->'source'->>'source_resistance_ohm')::float8, 0)
        + COALESCE((goal->'source'->>'lead_resistance_ohm')::float8, 0)) END)));
