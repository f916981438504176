//! The tables as Diesel sees them; the truth is in the migrations.

diesel::table! {
    owner (id) { id -> Uuid, name -> Text, created_at -> Timestamptz, }
}
diesel::table! {
    woofer (id) {
        id -> Uuid, owner_id -> Uuid, name -> Text, maker -> Text, size_in -> Nullable<Double>, document -> Jsonb,
        version -> Integer, created_at -> Timestamptz, updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    amplifier (id) {
        id -> Uuid, owner_id -> Uuid, name -> Text, maker -> Text, document -> Jsonb, version -> Integer,
        created_at -> Timestamptz, updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    room (id) {
        id -> Uuid, owner_id -> Uuid, name -> Text, document -> Jsonb, version -> Integer, created_at -> Timestamptz,
        updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    build (id) {
        id -> Uuid, owner_id -> Uuid, name -> Text, version -> Integer, created_at -> Timestamptz,
        updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>, origin -> Nullable<Uuid>, tags -> Array<Text>,
    }
}
diesel::table! {
    revision (id) {
        id -> Uuid, build_id -> Uuid, letter -> Text, document -> Jsonb, family -> Text, woofer_name -> Text,
        version -> Integer, created_at -> Timestamptz, updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    history (id) { id -> BigInt, revision_id -> Uuid, version -> Integer, document -> Jsonb, saved_at -> Timestamptz, }
}
diesel::table! {
    trial (id) {
        id -> Uuid, owner_id -> Uuid, build_id -> Uuid, goal -> Jsonb, counts -> Array<Integer>, families -> Array<Text>,
        woofers -> Integer, state -> Text, created_at -> Timestamptz, finished_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    trial_part (trial_id, part) {
        trial_id -> Uuid, part -> Integer, sheets -> Jsonb, size -> Integer, state -> Text, claimed_by -> Nullable<Uuid>,
        claimed_until -> Nullable<Timestamptz>, attempts -> Integer,
    }
}
diesel::table! {
    trial_result (id) {
        id -> BigInt, trial_id -> Uuid, woofer_id -> Uuid, name -> Text, maker -> Text, count -> Integer, family -> Text,
        verdict -> Integer, cost_db -> Nullable<Double>, spare_db -> Nullable<Double>, reaches_hz -> Nullable<Double>,
        f3_hz -> Nullable<Double>, outside_l -> Nullable<Double>, price -> Nullable<Double>, weight_kg -> Nullable<Double>,
        sheet -> Jsonb, outcome -> Jsonb,
    }
}
diesel::table! {
    work_plan (revision_id) { revision_id -> Uuid, document -> Jsonb, version -> Integer, updated_at -> Timestamptz, }
}
diesel::table! {
    workshop (owner_id) { owner_id -> Uuid, document -> Jsonb, version -> Integer, updated_at -> Timestamptz, }
}
diesel::table! {
    samples (digest) { digest -> Bytea, content -> Bytea, created_at -> Timestamptz, }
}
diesel::table! {
    measurement (id) {
        id -> Uuid, build_id -> Uuid, revision_id -> Nullable<Uuid>, digest -> Bytea, document -> Jsonb, version -> Integer,
        created_at -> Timestamptz, updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    log_entry (id) {
        id -> Uuid, build_id -> Uuid, kind -> Text, document -> Jsonb, written_at -> Timestamptz, version -> Integer,
        created_at -> Timestamptz, updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    photo (digest) {
        digest -> Bytea, content -> Bytea, small -> Bytea, width -> Integer, height -> Integer, created_at -> Timestamptz,
    }
}
diesel::table! {
    log_photo (entry_id, digest) { entry_id -> Uuid, digest -> Bytea, }
}
diesel::table! {
    listening (id) {
        id -> Uuid, build_id -> Uuid, code -> Text, helper_key -> Uuid, document -> Jsonb, sounds -> Jsonb, hearing -> Integer,
        created_at -> Timestamptz, shown_at -> Nullable<Timestamptz>, ended_at -> Nullable<Timestamptz>,
        outcome -> Nullable<Jsonb>, deleted_at -> Nullable<Timestamptz>,
    }
}
diesel::table! {
    listener (id) { id -> Uuid, listening_id -> Uuid, number -> Integer, name -> Text, joined_at -> Timestamptz, }
}
diesel::table! {
    slip (listener_id, hearing) { listener_id -> Uuid, hearing -> Integer, document -> Jsonb, given_at -> Timestamptz, }
}
diesel::joinable!(measurement -> samples (digest));
diesel::allow_tables_to_appear_in_same_query!(
    owner,
    woofer,
    amplifier,
    room,
    build,
    revision,
    history,
    trial,
    trial_part,
    trial_result,
    work_plan,
    workshop,
    samples,
    measurement,
    log_entry,
    photo,
    log_photo,
    listening,
    listener,
    slip
);
