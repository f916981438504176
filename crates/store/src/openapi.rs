//! References to the schemas of the design document, which the server's OpenAPI document carries.

use utoipa::openapi::{Ref, RefOr, Schema};

/// A design document.
pub fn design() -> RefOr<Schema> {
    Ref::from_schema_name("Design").into()
}

/// A woofer's sheet.
pub fn woofer() -> RefOr<Schema> {
    Ref::from_schema_name("Woofer").into()
}
