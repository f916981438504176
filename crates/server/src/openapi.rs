//! The OpenAPI document: routes as they are registered, schemas of documents and answers from their crates.

use crate::routes;
use actix_web::App;
use serde_json::Value;
use utoipa::OpenApi;
use utoipa_actix_web::AppExt;

#[derive(OpenApi)]
#[openapi(
    info(title = "Oak Drum", description = "Designs subwoofers and bass cabinets.", version = "1"),
    components(schemas(crate::problem::Problem))
)]
struct Frame;

/// The whole document as JSON.
pub fn document() -> Value {
    let api = utoipa_actix_web::scope("/api").configure(routes::configure);
    let (_, routes) = App::new().into_utoipa_app().openapi(Frame::openapi()).service(api).split_for_parts();
    let mut document = serde_json::to_value(routes).unwrap_or_default();
    if let Some(schemas) = document.pointer_mut("/components/schemas").and_then(Value::as_object_mut) {
        schemas.extend(oak_drum_document::schema::components(|generator| {
            generator.subschema_for::<oak_drum_design::Evaluation>();
            generator.subschema_for::<oak_drum_document::WorkPlan>();
            generator.subschema_for::<oak_drum_document::LogEntry>();
            generator.subschema_for::<oak_drum_listening::session::Session>();
            generator.subschema_for::<oak_drum_listening::session::Slip>();
            generator.subschema_for::<oak_drum_listening::outcome::Outcome>();
            generator.subschema_for::<oak_drum_listening::question::Question>();
            generator.subschema_for::<oak_drum_listening::question::Answer>();
            generator.subschema_for::<oak_drum_text::Text>();
            generator.subschema_for::<oak_drum_acoustics::families::Suggestion>();
            generator.subschema_for::<oak_drum_shelf::ShelfWoofer>();
            generator.subschema_for::<oak_drum_shelf::ShelfAmplifier>();
            generator.subschema_for::<oak_drum_shelf::ShelfRow>();
            generator.subschema_for::<oak_drum_shelf::Derived>();
            generator.subschema_for::<oak_drum_shelf::ColumnReport>();
            generator.subschema_for::<oak_drum_shelf::RowProblem>();
            generator.subschema_for::<oak_drum_matching::Goal>();
            generator.subschema_for::<oak_drum_matching::Outcome>();
            generator.subschema_for::<oak_drum_matching::Seek>();
            generator.subschema_for::<oak_drum_matching::begin::Begin>();
            generator.subschema_for::<oak_drum_matching::begin::Begun>();
            generator.subschema_for::<oak_drum_design::brief::purpose::Purposes>();
            generator.subschema_for::<oak_drum_design::cabinet::from_box::Form>();
            generator.subschema_for::<oak_drum_design::cabinet::from_box::MadeCabinet>();
            generator.subschema_for::<oak_drum_matching::Sought>();
            generator.subschema_for::<oak_drum_design::evaluation::card::Card>();
            generator.subschema_for::<oak_drum_tour::Progress>();
            generator.subschema_for::<oak_drum_tour::Tour>();
            generator.subschema_for::<oak_drum_design::enclosure::motion::Motion>();
            generator.subschema_for::<oak_drum_design::enclosure::tolerance::Tolerances>();
            generator.subschema_for::<oak_drum_design::enclosure::tolerance::Band>();
            generator.subschema_for::<oak_drum_design::woofer::in_box::SetsInBox>();
            generator.subschema_for::<oak_drum_design::airway::Airway>();
            generator.subschema_for::<oak_drum_design::airway::trim::TrimWish>();
            generator.subschema_for::<oak_drum_design::airway::trim::Trim>();
            generator.subschema_for::<oak_drum_design::quiet::Quiet>();
            generator.subschema_for::<oak_drum_design::room::view::RoomView>();
            generator.subschema_for::<oak_drum_design::room::map::MapWish>();
            generator.subschema_for::<oak_drum_design::room::map::RoomMap>();
            generator.subschema_for::<oak_drum_design::room::arrangements::ArrangementsWish>();
            generator.subschema_for::<oak_drum_design::room::arrangements::Arrangements>();
            generator.subschema_for::<oak_drum_design::room::families::FamiliesInRoom>();
            generator.subschema_for::<oak_drum_design::room::modes::RoomModePicture>();
            generator.subschema_for::<oak_drum_design::drive::view::DriveView>();
            generator.subschema_for::<oak_drum_design::drive::flattening::FlattenWish>();
            generator.subschema_for::<oak_drum_design::drive::flattening::FlattenResult>();
            generator.subschema_for::<oak_drum_design::drive::biquads::Biquads>();
            generator.subschema_for::<oak_drum_design::drive::parts::PartsWish>();
            generator.subschema_for::<oak_drum_design::drive::heat::PowerView>();
            generator.subschema_for::<oak_drum_design::drive::parts::PartsFound>();
            generator.subschema_for::<oak_drum_design::drive::suits::Suits>();
            generator.subschema_for::<oak_drum_design::cabinet::cutting::Cutting>();
            generator.subschema_for::<oak_drum_design::cabinet::view::CabinetView>();
            generator.subschema_for::<oak_drum_design::cabinet::step::Step>();
            generator.subschema_for::<oak_drum_design::cabinet::days::DaysPlan>();
            generator.subschema_for::<oak_drum_design::cabinet::kit::Kit>();
            generator.subschema_for::<oak_drum_document::Workshop>();
            generator.subschema_for::<oak_drum_design::cabinet::materials::Bill>();
            generator.subschema_for::<oak_drum_design::cabinet::materials::Spent>();
            generator.subschema_for::<oak_drum_design::cabinet::mistakes::Mistake>();
            generator.subschema_for::<oak_drum_design::cabinet::mistakes::Mistakes>();
            generator.subschema_for::<oak_drum_design::quiet::modes::ModePicture>();
            generator.subschema_for::<oak_drum_curves::measurement::Measurement>();
            generator.subschema_for::<oak_drum_curves::formats::text::ColumnReading>();
            generator.subschema_for::<oak_drum_design::prove::bench::BenchWish>();
            generator.subschema_for::<oak_drum_curves::recorded::RecordingWish>();
            generator.subschema_for::<oak_drum_curves::sweep::tone::Steady>();
            generator.subschema_for::<oak_drum_design::prove::hidden::Flaw>();
            generator.subschema_for::<oak_drum_design::prove::practice::PracticeVerdict>();
            generator.subschema_for::<oak_drum_design::prove::view::Proof>();
            generator.subschema_for::<oak_drum_design::prove::view::MeasuringPlan>();
            generator.subschema_for::<oak_drum_design::airway::learned::LearnedEnds>();
            generator.subschema_for::<oak_drum_design::prove::habits::Habits>();
            generator.subschema_for::<oak_drum_design::prove::combined::Combining>();
            generator.subschema_for::<oak_drum_design::prove::woofer_fit::WooferWish>();
            generator.subschema_for::<oak_drum_design::prove::woofer_fit::WooferProof>();
            generator.subschema_for::<crate::routes::measurements::BenchCabinet>();
        }));
    }
    document
}
