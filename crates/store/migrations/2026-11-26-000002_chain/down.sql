UPDATE trial SET goal = jsonb_strip_nulls((goal - 'chain') || jsonb_build_object(
    'amplifier', CASE WHEN goal->'chain' ? 'amplifier' THEN jsonb_build_object(
        'power_w', goal->'chain'->'amplifier'->'power_w',
        'load_ohm', goal->'chain'->'amplifier'->'load_ohm',
        'minimum_load_ohm', goal->'chain'->'amplifier'->'minimum_load_ohm') END,
    'source', CASE WHEN goal->'chain'->'cable' ? 'lead_resistance_ohm' THEN jsonb_build_object(
        'lead_resistance_ohm', goal->'chain'->'cable'->'lead_resistance_ohm') END));
