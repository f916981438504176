//! References to the schemas of the core's types, which the OpenAPI document carries whole.

pub use oak_drum_store::openapi::{
    design, goal, listening_session, log_entry, measurement, room, shelf_amplifier, shelf_row, shelf_woofer, work_plan,
    workshop,
};

use utoipa::openapi::{ArrayBuilder, Ref, RefOr, Schema};

/// A result.
pub fn evaluation() -> RefOr<Schema> {
    Ref::from_schema_name("Evaluation").into()
}

/// How a cabinet is to stand.
pub fn cabinet_form() -> RefOr<Schema> {
    Ref::from_schema_name("CabinetForm").into()
}

/// What is sought.
pub fn seek() -> RefOr<Schema> {
    Ref::from_schema_name("Seek").into()
}

/// Tolerances.
pub fn tolerances() -> RefOr<Schema> {
    Ref::from_schema_name("Tolerances").into()
}

/// How a level is to be flattened.
pub fn flatten() -> RefOr<Schema> {
    Ref::from_schema_name("FlattenWish").into()
}

/// Which map of a room.
pub fn map_wish() -> RefOr<Schema> {
    Ref::from_schema_name("MapWish").into()
}

/// How many cabinets are to be put.
pub fn arrangements_wish() -> RefOr<Schema> {
    Ref::from_schema_name("ArrangementsWish").into()
}

/// What parts are wanted for.
pub fn parts() -> RefOr<Schema> {
    Ref::from_schema_name("PartsWish").into()
}

/// What was measured.
pub fn trim() -> RefOr<Schema> {
    Ref::from_schema_name("TrimWish").into()
}

/// A woofer's sheet.
pub fn sheet() -> RefOr<Schema> {
    Ref::from_schema_name("Woofer").into()
}

/// Sheets of a woofer.
pub fn sheets() -> RefOr<Schema> {
    list_of("Woofer")
}

/// Sheets of amplifiers.
pub fn amplifiers() -> RefOr<Schema> {
    list_of("Amplifier")
}

/// What follows from a sheet.
pub fn derived() -> RefOr<Schema> {
    Ref::from_schema_name("Derived").into()
}

/// The columns of a file.
pub fn columns() -> RefOr<Schema> {
    list_of("ColumnReport")
}

/// A text.
pub fn text() -> RefOr<Schema> {
    Ref::from_schema_name("Text").into()
}

/// Findings.
pub fn findings() -> RefOr<Schema> {
    list_of("Finding")
}

/// Starting points.
pub fn suggestions() -> RefOr<Schema> {
    list_of("Suggestion")
}

/// The problems of a row.
pub fn row_problems() -> RefOr<Schema> {
    list_of("RowProblem")
}

fn list_of(name: &str) -> RefOr<Schema> {
    Schema::from(ArrayBuilder::new().items(Ref::from_schema_name(name)).build()).into()
}

/// Steps of the building.
pub fn steps() -> RefOr<Schema> {
    list_of("BuildStep")
}

/// What has to be bought.
pub fn bill() -> RefOr<Schema> {
    Ref::from_schema_name("Bill").into()
}

/// How a text is read.
pub fn reading() -> RefOr<Schema> {
    Ref::from_schema_name("ColumnReading").into()
}

/// A curve to be drawn.
pub fn drawn() -> RefOr<Schema> {
    Ref::from_schema_name("DrawnCurve").into()
}

/// A measurement on the bench.
pub fn bench() -> RefOr<Schema> {
    Ref::from_schema_name("BenchWish").into()
}

/// The cabinet on the bench.
pub fn cabinet() -> RefOr<Schema> {
    Ref::from_schema_name("BenchCabinet").into()
}

/// Flaws of a cabinet.
pub fn flaws() -> RefOr<Schema> {
    list_of("Flaw")
}

/// Measured figures of a woofer.
pub fn parameter_set() -> RefOr<Schema> {
    Ref::from_schema_name("ParameterSet").into()
}

/// What is known of a woofer to be fitted.
pub fn woofer_wish() -> RefOr<Schema> {
    Ref::from_schema_name("WooferWish").into()
}

/// How measurements are combined.
pub fn combining() -> RefOr<Schema> {
    Ref::from_schema_name("Combining").into()
}

/// What came of a listening session.
pub fn listening_outcome() -> RefOr<Schema> {
    Ref::from_schema_name("ListeningOutcome").into()
}

/// What a listening session asks.
pub fn listening_test() -> RefOr<Schema> {
    Ref::from_schema_name("ListeningTest").into()
}

/// Who switches.
pub fn listening_switching() -> RefOr<Schema> {
    Ref::from_schema_name("Switching").into()
}

/// A listener's answer.
pub fn listening_slip() -> RefOr<Schema> {
    Ref::from_schema_name("ListeningSlip").into()
}

/// Designs.
pub fn designs() -> RefOr<Schema> {
    list_of("Design")
}

/// A mistake.
pub fn mistake() -> RefOr<Schema> {
    Ref::from_schema_name("Mistake").into()
}

/// Planned against paid.
pub fn spent() -> RefOr<Schema> {
    Ref::from_schema_name("Spent").into()
}
