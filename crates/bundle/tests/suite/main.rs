//! Files that are packed and opened, damaged at any place, and their published schemas.

use oak_drum_bundle::build::BuildFile;
use oak_drum_bundle::open::Holds;
use oak_drum_bundle::workshop::WorkshopFile;
use oak_drum_bundle::{Blob, FileError, open, pack};
use oak_drum_curves::curve::Curve;
use oak_drum_curves::formats::packed;
use oak_drum_curves::process::recipe::Data;
use oak_drum_document::schema;
use proptest::prelude::*;
use serde_json::{Value, json};
use std::io::Cursor;
use std::path::Path;

/// SHA-256 of what [`samples`] gives is not worked out here: the store asks the database for it.
const DIGEST: &str = "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa";

fn samples() -> Vec<u8> {
    packed::pack(&Data::Points(Curve::of_level(vec![20.0, 40.0, 80.0], &[80.0, 84.5, 90.0], None)))
}

fn build() -> BuildFile {
    let design = json!({"format": "oak-drum-design", "version": 8, "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
        "re_ohm": 5.6, "sd_cm2": 530}, "enclosure": {"family": "sealed", "net_volume_l": 60}});
    let at = "2026-03-04T05:06:07Z";
    serde_json::from_value(json!({
        "format": "oak-drum-build", "version": 1, "key": "0123456789abcdef0123456789abcdef", "name": "Žabí dům",
        "created_at": at,
        "revisions": [{"letter": "A", "created_at": at, "updated_at": at, "document": design,
            "before": [{"saved_at": at, "document": design}]}],
        "measurements": [{"created_at": at, "revision": "A", "samples": DIGEST, "document": {
            "format": "oak-drum-measurement", "version": 1, "source": {"kind": "file", "name": "a.txt"}}}],
        "log": [{"written_at": at, "document": {"text": "begun"}}],
    }))
    .unwrap()
}

fn file() -> Vec<u8> {
    let fetch = |blob: Blob| -> Result<Vec<u8>, FileError> {
        assert_eq!(blob, Blob::Samples(DIGEST));
        Ok(samples())
    };
    pack(Cursor::new(Vec::new()), &build(), &Vec::new(), fetch).unwrap().into_inner()
}

#[test]
fn what_is_packed_is_opened() {
    let (mut opened, holds) = open(Cursor::new(file())).unwrap();
    let Holds::Build(made) = holds else { panic!("no build") };
    assert_eq!((made.name.as_str(), made.revisions.len(), made.revisions[0].before.len()), ("Žabí dům", 1, 1));
    assert_eq!(made.log[0].1.text, "begun");
    assert_eq!(opened.blob(Blob::Samples(DIGEST)).unwrap(), samples());
    assert!(matches!(opened.blob(Blob::Photo(DIGEST)), Err(FileError::Missing(_))));
    // a design of an older version is brought up to date
    let mut old = build();
    old.revisions[0].document["version"] = json!(5);
    let opened = open(pack::<_, FileError>(Cursor::new(Vec::new()), &old, &Vec::new(), |_| Ok(samples())).unwrap());
    let Holds::Build(made) = opened.unwrap().1 else { panic!("no build") };
    assert_eq!(serde_json::to_value(&*made.revisions[0].design).unwrap()["version"], 8);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]
    /// Bytes changed, cut off or put in anywhere: it opens or it is refused, and never falls over.
    #[test]
    fn a_damaged_file_is_opened_or_refused(at in 0.0..1.0f64, byte: u8, how in 0..3usize) {
        let mut bytes = file();
        let place = ((bytes.len() - 1) as f64 * at) as usize;
        match how {
            0 => bytes[place] = byte,
            1 => bytes.truncate(place),
            _ => bytes.insert(place, byte),
        }
        if let Ok((mut opened, _)) = open(Cursor::new(bytes)) {
            drop(opened.blob(Blob::Samples(DIGEST)));
        }
    }
    /// Whatever JSON stands in place of a part: refused with its place, or taken.
    #[test]
    fn any_part_may_be_nonsense(
        part in prop::sample::select(vec!["/name", "/key", "/created_at", "/revisions", "/revisions/0/letter", "/revisions/0/work",
            "/revisions/0/document/enclosure", "/revisions/0/before/0", "/measurements/0/samples", "/measurements/0/document",
            "/log/0/document", "/listening"]),
        put in prop::sample::select(vec![json!(null), json!(-1), json!(""), json!("x"), json!([]), json!({}), json!([[]]), json!(1e300),
            json!("\u{0}"), json!({"a": 1}), json!("A".repeat(500))]),
    ) {
        let mut read = serde_json::to_value(build()).unwrap();
        if let Some(place) = read.pointer_mut(part) { *place = put }
        if let Ok(made) = serde_json::from_value::<BuildFile>(read) {
            drop(oak_drum_bundle::check::build(made));
        }
    }
}

/// docs/schema/build.json and workshop.json are what the types say; `OAK_DRUM_WRITE=1` writes them anew.
#[test]
fn the_published_schemas_of_files_are_current() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schema");
    for (name, schema) in [("build", schema::of::<BuildFile>()), ("workshop", schema::of::<WorkshopFile>())] {
        let path = folder.join(format!("{name}.json"));
        let fresh = format!("{schema:#}\n");
        if std::env::var_os("OAK_DRUM_WRITE").is_some() {
            std::fs::write(&path, &fresh).unwrap();
        }
        let kept = std::fs::read_to_string(&path).unwrap_or_default();
        assert!(kept == fresh, "{} is not current; OAK_DRUM_WRITE=1 writes it", path.display());
        let _: Value = serde_json::from_str(&kept).unwrap();
    }
}
