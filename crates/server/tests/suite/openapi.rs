//! The OpenAPI document in the front end's folder is what the server serves; `OAK_DRUM_WRITE=1` writes it anew.
//! The TypeScript types made from it are held to it by the front end's own check (tests/front_end.rs).

#[test]
fn the_front_ends_copy_is_current() {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/api/openapi.json");
    let fresh = format!("{:#}\n", oak_drum_server::openapi::document());
    if std::env::var_os("OAK_DRUM_WRITE").is_some() {
        std::fs::write(&path, &fresh).unwrap();
    }
    let copy = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(copy == fresh, "stale: run with OAK_DRUM_WRITE=1, then `npm run api` in web/");
}

/// Every handler under /api that is not a document itself is in the OpenAPI document, with an operation id.
#[test]
fn every_operation_is_named() {
    let document = oak_drum_server::openapi::document();
    let mut ids: Vec<String> = Vec::new();
    for (path, item) in document["paths"].as_object().unwrap() {
        assert!(path.starts_with("/api/"), "{path}");
        for (method, operation) in item.as_object().unwrap() {
            let id = operation["operationId"].as_str().unwrap_or_else(|| panic!("{method} {path}"));
            ids.push(id.to_owned());
        }
    }
    let count = ids.len();
    ids.sort();
    ids.dedup();
    assert_eq!((ids.len(), count), (148, 148));
}
