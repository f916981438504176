//! The OpenAPI document: routes from the handlers, schemas of the design from the design crate.

use crate::routes;
use serde_json::Value;
use utoipa::OpenApi;
use utoipa::openapi::{Ref, RefOr, Schema};

#[derive(OpenApi)]
#[openapi(
    info(title = "Oak Drum", description = "Designs subwoofers and bass cabinets.", version = "1"),
    paths(
        routes::health::live,
        routes::health::ready,
        routes::evaluate::evaluate,
        routes::evaluate::suggest,
        routes::evaluate::families,
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
        routes::woofers::create,
        routes::woofers::delete,
    ),
    components(schemas(crate::problem::Problem))
)]
struct Routes;

/// A design document.
pub fn design() -> RefOr<Schema> {
    Ref::from_schema_name("Design").into()
}

/// A result.
pub fn evaluation() -> RefOr<Schema> {
    Ref::from_schema_name("Evaluation").into()
}

/// The whole document as JSON.
pub fn document() -> Value {
    let mut document = serde_json::to_value(Routes::openapi()).unwrap_or_default();
    if let Some(schemas) = document.pointer_mut("/components/schemas").and_then(Value::as_object_mut) {
        schemas.extend(oak_drum_design::schema::components());
    }
    document
}
