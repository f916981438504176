//! References to the schemas of the design document, which the server's OpenAPI document carries.

use utoipa::openapi::{Ref, RefOr, Schema};

/// A design document.
pub fn design() -> RefOr<Schema> {
    Ref::from_schema_name("Design").into()
}

/// A work plan.
pub fn work_plan() -> RefOr<Schema> {
    Ref::from_schema_name("WorkPlan").into()
}

/// What a workshop has.
pub fn workshop() -> RefOr<Schema> {
    Ref::from_schema_name("Workshop").into()
}

/// A woofer of the shelf.
pub fn shelf_woofer() -> RefOr<Schema> {
    Ref::from_schema_name("ShelfWoofer").into()
}

/// A room.
pub fn room() -> RefOr<Schema> {
    Ref::from_schema_name("Room").into()
}

/// An amplifier of the shelf.
pub fn shelf_amplifier() -> RefOr<Schema> {
    Ref::from_schema_name("ShelfAmplifier").into()
}

/// A line of the shelf.
pub fn shelf_row() -> RefOr<Schema> {
    Ref::from_schema_name("ShelfRow").into()
}

/// What a search is after.
pub fn goal() -> RefOr<Schema> {
    Ref::from_schema_name("Goal").into()
}

/// The best box of a candidate.
pub fn outcome() -> RefOr<Schema> {
    Ref::from_schema_name("Outcome").into()
}

/// A measurement.
pub fn measurement() -> RefOr<Schema> {
    Ref::from_schema_name("Measurement").into()
}

/// An entry of a log.
pub fn log_entry() -> RefOr<Schema> {
    Ref::from_schema_name("LogEntry").into()
}

/// A listening session.
pub fn listening_session() -> RefOr<Schema> {
    Ref::from_schema_name("ListeningSession").into()
}
