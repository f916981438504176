//! The OpenAPI document: routes from the handlers, schemas of the design from the design crate.

use crate::routes;
use serde_json::Value;
use utoipa::OpenApi;

#[derive(OpenApi)]
#[openapi(
    info(title = "Oak Drum", description = "Designs subwoofers and bass cabinets.", version = "1"),
    paths(
        routes::health::live,
        routes::health::ready,
        routes::evaluate::evaluate,
        routes::evaluate::curves,
        routes::evaluate::findings,
        routes::evaluate::suggest,
        routes::evaluate::families,
        routes::enclosure::materials,
        routes::enclosure::motion,
        routes::enclosure::tolerance,
        routes::enclosure::seek,
        routes::airway::pipes,
        routes::airway::airway,
        routes::airway::trim,
        routes::quiet::quiet,
        routes::cabinet::cabinet,
        routes::cabinet::saw,
        routes::cabinet::bench,
        routes::cabinet::sheets,
        routes::cabinet::file,
        routes::quiet::mode,
        routes::builds::list,
        routes::builds::create,
        routes::builds::get,
        routes::builds::rename,
        routes::builds::delete,
        routes::builds::restore,
        routes::revisions::create,
        routes::revisions::save,
        routes::revisions::history,
        routes::revisions::delete,
        routes::revisions::restore,
        routes::woofers::list,
        routes::woofers::get,
        routes::woofers::create,
        routes::woofers::keep,
        routes::woofers::save,
        routes::woofers::favourite,
        routes::woofers::delete,
        routes::woofers::restore,
        routes::woofers::derive,
        routes::files::preview,
        routes::files::import,
        routes::files::export,
        routes::trials::rules,
        routes::trials::begin,
        routes::trials::of_build,
        routes::trials::get,
        routes::trials::stop,
        routes::trials::resume,
        routes::trials::results,
        routes::trials::design,
    ),
    components(schemas(crate::problem::Problem))
)]
struct Routes;

/// The whole document as JSON.
pub fn document() -> Value {
    let mut document = serde_json::to_value(Routes::openapi()).unwrap_or_default();
    if let Some(schemas) = document.pointer_mut("/components/schemas").and_then(Value::as_object_mut) {
        schemas.extend(oak_drum_document::schema::components(|generator| {
            generator.subschema_for::<oak_drum_design::Evaluation>();
            generator.subschema_for::<oak_drum_acoustics::families::Suggestion>();
            generator.subschema_for::<oak_drum_shelf::ShelfWoofer>();
            generator.subschema_for::<oak_drum_shelf::ShelfRow>();
            generator.subschema_for::<oak_drum_shelf::Derived>();
            generator.subschema_for::<oak_drum_shelf::ColumnReport>();
            generator.subschema_for::<oak_drum_shelf::RowProblem>();
            generator.subschema_for::<oak_drum_matching::Goal>();
            generator.subschema_for::<oak_drum_matching::Outcome>();
            generator.subschema_for::<oak_drum_matching::Seek>();
            generator.subschema_for::<oak_drum_matching::Sought>();
            generator.subschema_for::<oak_drum_design::enclosure::motion::Motion>();
            generator.subschema_for::<oak_drum_design::enclosure::tolerance::Tolerances>();
            generator.subschema_for::<oak_drum_design::enclosure::tolerance::Band>();
            generator.subschema_for::<oak_drum_design::airway::Airway>();
            generator.subschema_for::<oak_drum_design::airway::trim::TrimWish>();
            generator.subschema_for::<oak_drum_design::airway::trim::Trim>();
            generator.subschema_for::<oak_drum_design::quiet::Quiet>();
            generator.subschema_for::<oak_drum_design::cabinet::cutting::Cutting>();
            generator.subschema_for::<oak_drum_design::cabinet::view::CabinetView>();
            generator.subschema_for::<oak_drum_design::cabinet::step::Step>();
            generator.subschema_for::<oak_drum_design::cabinet::materials::Bill>();
            generator.subschema_for::<oak_drum_design::quiet::modes::ModePicture>();
        }));
    }
    document
}
