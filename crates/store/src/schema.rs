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
    build (id) {
        id -> Uuid, owner_id -> Uuid, name -> Text, version -> Integer, created_at -> Timestamptz,
        updated_at -> Timestamptz, deleted_at -> Nullable<Timestamptz>,
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
diesel::allow_tables_to_appear_in_same_query!(owner, woofer, build, revision, history);
