//! Builds and workshops as files, out and in over HTTP: all of it comes back, nothing that would harm does. A file is read by
//! Python's zipfile, hashlib and Pillow besides (testdata/bundle/unzip.py).

use crate::client::{Answer, Client};
use image::{ImageFormat, Rgb, RgbImage};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::io::{Cursor, Read, Write};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::Arc;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipArchive, ZipWriter};

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

struct Workshop {
    client: Client,
    _server: Server,
    _cluster: Arc<Cluster>,
}

fn workshop(demo: bool) -> Workshop {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let mut arguments = vec!["--database", &url, "--listen", "127.0.0.1:0"];
    arguments.extend(demo.then_some("--demo"));
    let server = Server::start(Path::new(BINARY), &arguments).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    Workshop { client, _server: server, _cluster: cluster }
}

impl Workshop {
    fn builds(&self) -> Vec<Value> {
        self.client.get("/api/builds").body.as_array().unwrap().clone()
    }
    fn key(&self, name: &str) -> String {
        let list = self.builds();
        let found = list.iter().find(|b| b["name"] == name).unwrap_or_else(|| panic!("no build {name}"));
        found["id"].as_str().unwrap().to_owned()
    }
    fn file(&self, name: &str) -> Vec<u8> {
        let answer = self.client.get(&format!("/api/builds/{}/file", self.key(name)));
        assert_eq!((answer.status, answer.kind.as_str()), (200, "application/zip"), "{}", answer.text);
        answer.bytes
    }
    fn import(&self, path: &str, bytes: &[u8]) -> Answer {
        self.client.sent(path, bytes, "application/zip")
    }
}

/// Name and bytes of every member.
fn members(file: &[u8]) -> Vec<(String, Vec<u8>)> {
    let mut archive = ZipArchive::new(Cursor::new(file)).unwrap();
    (0..archive.len())
        .map(|i| {
            let mut member = archive.by_index(i).unwrap();
            let mut bytes = Vec::new();
            member.read_to_end(&mut bytes).unwrap();
            (member.name().unwrap().into_owned(), bytes)
        })
        .collect()
}

fn zipped(members: &[(String, Vec<u8>)]) -> Vec<u8> {
    packed(members, CompressionMethod::Stored)
}

fn packed(members: &[(String, Vec<u8>)], how: CompressionMethod) -> Vec<u8> {
    let mut writer = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, bytes) in members {
        writer.start_file(name.as_str(), SimpleFileOptions::default().compression_method(how)).unwrap();
        writer.write_all(bytes).unwrap();
    }
    writer.finish().unwrap().into_inner()
}

/// The file with one member changed.
fn changed(file: &[u8], name: &str, change: impl Fn(&[u8]) -> Vec<u8>) -> Vec<u8> {
    let mut list = members(file);
    let found = list.iter_mut().find(|(n, _)| n.ends_with(name)).unwrap_or_else(|| panic!("no {name}"));
    found.1 = change(&found.1);
    zipped(&list)
}

fn with_json(file: &[u8], change: impl Fn(&mut Value)) -> Vec<u8> {
    changed(file, "build.json", |text| {
        let mut read: Value = serde_json::from_slice(text).unwrap();
        change(&mut read);
        read.to_string().into_bytes()
    })
}

fn told(file: &[u8], name: &str) -> Value {
    let list = members(file);
    serde_json::from_slice(&list.iter().find(|(n, _)| n == name).unwrap().1).unwrap()
}

#[test]
#[ignore = "wants Pillow in target/python: scripts/test installs it and runs this"]
fn a_build_goes_out_and_comes_in() {
    let here = workshop(true);
    let (rich, there) = richest(&here);
    let file = here.file(&rich);
    read_by_python(&file);

    // into another workshop: the same is told, under keys of its own
    let came = there.import("/api/builds/file", &file);
    assert_eq!((came.status, &came.body["was_here"]), (200, &json!(false)), "{}", came.text);
    assert_eq!(came.body["name"], rich.as_str());
    let ours = here.key(&rich);
    assert_ne!(came.body["id"], ours.as_str());
    let again = there.file(&rich);
    assert_eq!(told(&again, "build.json"), told(&file, "build.json"));
    assert_eq!(members(&again), members(&file), "the same build gives the same file");
    // whoever may listen may come along, however he is called
    let long = with_json(&file, |b| b["listening"][0]["listeners"][0]["name"] = json!("Ž".repeat(120)));
    assert_eq!(workshop(false).import("/api/builds/file", &long).status, 200);
    // what was measured, written, heard is seen there
    let id = came.body["id"].as_str().unwrap().to_owned();
    for what in ["log", "measurements", "listening", "timeline"] {
        let of = |w: &Workshop, id: &str| w.client.get(&format!("/api/builds/{id}/{what}"));
        let (before, after) = (of(&here, &ours), of(&there, &id));
        assert_eq!((before.status, after.status), (200, 200), "{what}: {}", after.text);
        let many = |a: &Answer| a.body.as_array().map(Vec::len).or_else(|| a.body["entries"].as_array().map(Vec::len));
        assert_eq!(many(&before), many(&after), "{what}");
    }
    // a revision begun there is called after the last one
    let first = told(&file, "build.json")["revisions"][0]["document"].clone();
    let more = there.client.post(&format!("/api/builds/{id}/revisions"), &json!({"document": first}));
    assert!(more.status == 201 && more.body["letter"] != "A", "{}", more.text);

    // twice: one build, or a plain copy, as asked
    let twice = there.import("/api/builds/file", &file);
    assert_eq!((twice.status, &twice.body["was_here"], &twice.body["id"]), (200, &json!(true), &json!(id)));
    let copy = there.import("/api/builds/file?again=copy", &file);
    assert_eq!(copy.body["name"], format!("{rich} (copy)"));
    assert_eq!(there.builds().len(), 2);
    // where it comes from it is known as well
    assert_eq!(here.import("/api/builds/file", &file).body["id"], ours.as_str());
    // once put away it comes again
    assert_eq!(
        there.client.agent.delete(format!("{}/api/builds/{id}", there.client.base)).call().unwrap().status(),
        204
    );
    let back = there.import("/api/builds/file", &file);
    assert_eq!((back.status, &back.body["was_here"]), (200, &json!(false)), "{}", back.text);

    hostile(&there, &file);
    nothing_of_a_photo_but_the_picture(&there, &file);
    two_at_once(&file);
}

/// The demo's build with most to tell, and an empty workshop.
fn richest(here: &Workshop) -> (String, Workshop) {
    let weight = |b: &Value| {
        let id = b["id"].as_str().unwrap();
        let many =
            |what: &str| here.client.get(&format!("/api/builds/{id}/{what}")).body.as_array().map_or(0, Vec::len);
        many("listening") * 1000 + many("measurements") * 10
    };
    let list = here.builds();
    let best = list.iter().max_by_key(|b| weight(b)).unwrap();
    (best["name"].as_str().unwrap().to_owned(), workshop(false))
}

fn python(file: &[u8]) -> Value {
    let project = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let path: PathBuf = std::env::temp_dir().join(format!("oak-drum-carry-{}.zip", std::process::id()));
    std::fs::write(&path, file).unwrap();
    let run = Command::new(project.join("target/python/bin/python"))
        .arg(project.join("testdata/bundle/unzip.py"))
        .arg(&path)
        .output()
        .unwrap();
    std::fs::remove_file(&path).unwrap();
    assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    serde_json::from_slice(&run.stdout).unwrap()
}

fn read_by_python(file: &[u8]) {
    let read = python(file);
    assert_eq!(read["bad"], Value::Null);
    assert_eq!(read["build"], told(file, "build.json"));
    let digests = read["digests"].as_object().unwrap();
    assert!(digests.len() >= 3, "{digests:?}");
    for (name, digest) in digests {
        assert!(name.contains(digest.as_str().unwrap()), "{name}: {digest}");
    }
    for (name, photo) in read["photos"].as_object().unwrap() {
        assert_eq!(photo["exif"], 0, "{name}: {photo}");
    }
    assert!(!read["photos"].as_object().unwrap().is_empty());
    // three columns of numbers for any other program
    for (name, rows) in read["curves"].as_object().unwrap() {
        for row in rows.as_array().unwrap() {
            let row = row.as_array().unwrap();
            assert!((2..=3).contains(&row.len()), "{name}: {row:?}");
            assert!(row.iter().all(|c| c.as_str().unwrap().parse::<f64>().is_ok()), "{name}: {row:?}");
        }
    }
}

/// Files that were damaged or made to harm: a clear word, and nothing of them is kept.
fn hostile(there: &Workshop, file: &[u8]) {
    let before = there.builds();
    let refused = |what: &str, bytes: &[u8], status: u16, words: &str| {
        let answer = there.import("/api/builds/file?again=copy", bytes);
        assert_eq!(answer.status, status, "{what}: {}", answer.text);
        assert!(answer.body["detail"].as_str().unwrap().contains(words), "{what}: {}", answer.text);
    };
    refused("no zip", b"hello", 422, "no file of a build");
    refused("nothing", b"", 422, "no file of a build");
    refused("half", &file[..file.len() / 2], 422, "no file of a build");
    refused("another zip", &zipped(&[("letter.txt".into(), b"dear".to_vec())]), 422, "build.json is not in it");
    for name in ["../../etc/cron.d/x", "/etc/passwd", "c:\\x", "photos\\..\\x"] {
        let mut list = members(file);
        list.push((name.into(), b"x".to_vec()));
        refused(name, &zipped(&list), 422, "leads out");
    }
    refused("newer", &with_json(file, |b| b["version"] = json!(99)), 422, "version 99");
    refused("no version", &with_json(file, |b| b["version"] = json!("one")), 422, "no version");
    refused("another format", &with_json(file, |b| b["format"] = json!("oak-drum-design")), 422, "does not say");
    refused("unknown field", &with_json(file, |b| b["owner_id"] = json!("x")), 422, "unknown field");
    refused("a foreign key", &with_json(file, |b| b["key"] = json!("'; DROP TABLE build; --")), 422, "/key");
    refused("no revision", &with_json(file, |b| b["revisions"] = json!([])), 422, "/revisions");
    let twin = with_json(file, |b| {
        let first = b["revisions"][0].clone();
        b["revisions"].as_array_mut().unwrap().push(first);
    });
    refused("two of one letter", &twin, 422, "two revisions A");
    let broken = with_json(file, |b| b["revisions"][0]["document"]["woofer"]["re_ohm"] = json!(-4));
    refused("a design that is none", &broken, 422, "/revisions/0/document/woofer/re_ohm");
    refused("of no revision", &with_json(file, |b| b["measurements"][0]["revision"] = json!("Q")), 422, "revision Q");
    let peeked = with_json(file, |b| {
        b["listening"][0]["listeners"][0]["slips"][0]["document"]["scores"] = json!([[99]]);
    });
    refused("a score off the ruler", &peeked, 422, "/listening/0");
    let climbing = with_json(file, |b| b["measurements"][0]["samples"] = json!("../../../../etc/passwd"));
    refused("samples elsewhere", &climbing, 422, "missing");
    let without: Vec<_> = members(file).into_iter().filter(|(n, _)| !n.starts_with("samples/")).collect();
    refused("without samples", &zipped(&without), 422, "missing");
    let samples = members(file).into_iter().find(|(n, _)| n.starts_with("samples/")).unwrap().0;
    refused("other samples", &changed(file, &samples, |b| [b, &b"x"[..]].concat()), 422, "samples/");
    let photo = members(file).into_iter().find(|(n, _)| n.starts_with("photos/")).unwrap().0;
    refused("a script for a photo", &changed(file, &photo, |_| b"<script>alert(1)</script>".to_vec()), 422, "no photo");
    // a bomb: 66 MB of spaces in a file of some hundred kB
    let bomb = packed(&[("build.json".into(), vec![b' '; 66 << 20])], CompressionMethod::Deflated);
    assert!(bomb.len() < 1 << 20);
    refused("a bomb", &bomb, 422, "unpacks to more than 64 MB");
    // one that says it is small
    let mut lying = bomb;
    let full = (66u32 << 20).to_le_bytes();
    let places: Vec<usize> = lying.windows(4).enumerate().filter(|(_, w)| *w == full).map(|(i, _)| i).collect();
    assert!(!places.is_empty());
    for place in places {
        lying[place..place + 4].copy_from_slice(&1000u32.to_le_bytes());
    }
    let answer = there.import("/api/builds/file", &lying);
    assert_eq!(answer.status, 422, "{}", answer.text);
    // more than is taken at all is refused before it is sent
    let stated = there
        .client
        .agent
        .post(format!("{}/api/builds/file", there.client.base))
        .header("content-type", "application/zip")
        .header("content-length", "3000000000")
        .send(&b"PK"[..]);
    if let Ok(answer) = stated {
        assert_eq!(answer.status(), 413);
    }
    // a build's file is no workshop's, and the other way about
    assert_eq!(there.import("/api/workshop/file", file).status, 422);
    assert_eq!(there.builds(), before, "nothing of any of them was kept");
}

/// A photo that was put in by hand with what a camera adds loses that.
fn nothing_of_a_photo_but_the_picture(there: &Workshop, file: &[u8]) {
    let mut bytes = Cursor::new(Vec::new());
    RgbImage::from_pixel(64, 48, Rgb([90, 60, 30])).write_to(&mut bytes, ImageFormat::Jpeg).unwrap();
    let jpeg = bytes.into_inner();
    let comment = [&jpeg[..2], &[0xff, 0xfe, 0, 10], b"51N 0W!!", &jpeg[2..]].concat();
    let trailing = [&jpeg[..], b"PK hidden behind \xff\xd9"].concat();
    // turned, and with a place: Pillow sees it before and not after
    let camera = crate::log::with_exif(&jpeg, 6);
    let seen =
        |file: &[u8]| python(file)["photos"].as_object().unwrap().values().map(|p| p["exif"].as_u64().unwrap()).max();
    for bad in [comment, trailing, camera.clone()] {
        let photo = members(file).into_iter().find(|(n, _)| n.starts_with("photos/")).unwrap().0;
        let came = there.import("/api/builds/file?again=copy", &changed(file, &photo, |_| bad.clone()));
        assert_eq!(came.status, 200, "{}", came.text);
        let id = came.body["id"].as_str().unwrap();
        let out = there.client.get(&format!("/api/builds/{id}/file")).bytes;
        for (name, kept) in members(&out).into_iter().filter(|(n, _)| n.starts_with("photos/")) {
            let has = |w: &[u8]| kept.windows(w.len()).any(|x| x == w);
            assert!(!has(b"51N") && !has(b"hidden"), "{name}");
        }
        let sent = changed(file, &photo, |_| bad.clone());
        assert_eq!((seen(&sent) > Some(0), seen(&out)), (bad == camera, Some(0)));
    }
}

/// The same file from two at once is one build.
fn two_at_once(file: &[u8]) {
    let there = workshop(false);
    let answers: Vec<(u16, Value)> = std::thread::scope(|s| {
        let sent: Vec<_> = (0..4)
            .map(|_| {
                s.spawn(|| {
                    let answer = there.import("/api/builds/file", file);
                    (answer.status, answer.body["was_here"].clone())
                })
            })
            .collect();
        sent.into_iter().map(|t| t.join().unwrap()).collect()
    });
    assert!(answers.iter().all(|a| a.0 == 200), "{answers:?}");
    assert_eq!(answers.iter().filter(|a| a.1 == json!(false)).count(), 1, "{answers:?}");
    assert_eq!(there.builds().len(), 1);
}

#[test]
fn a_workshop_is_backed_up_and_restored_equal() {
    let (here, there) = (workshop(true), workshop(false));
    let file = here.client.get("/api/workshop/file");
    assert_eq!((file.status, file.kind.as_str()), (200, "application/zip"));
    // only into an empty one
    let full = here.import("/api/workshop/file", &file.bytes);
    assert_eq!(full.status, 409, "{}", full.text);
    // two builds of one key, or fewer than it says: none comes
    let twin = changed(&file.bytes, "builds/1/build.json", |text| {
        let mut read: Value = serde_json::from_slice(text).unwrap();
        read["key"] = told(&file.bytes, "builds/0/build.json")["key"].clone();
        read.to_string().into_bytes()
    });
    let missing: Vec<_> = members(&file.bytes).into_iter().filter(|(n, _)| !n.starts_with("builds/7/")).collect();
    for (bytes, words) in
        [(twin, "two of its builds have one key"), (zipped(&missing), "builds/7/build.json is missing")]
    {
        let refused = there.import("/api/workshop/file", &bytes);
        assert_eq!(refused.status, 422);
        assert!(refused.body["detail"].as_str().unwrap().contains(words), "{}", refused.text);
    }
    assert!(there.builds().is_empty() && there.client.get("/api/rooms").body.as_array().unwrap().is_empty());

    let restored = there.import("/api/workshop/file", &file.bytes);
    assert_eq!((restored.status, &restored.body["builds"]), (200, &json!(here.builds().len())), "{}", restored.text);
    // what goes out of it again is the same, member by member
    let again = there.client.get("/api/workshop/file").bytes;
    let (before, after) = (members(&file.bytes), members(&again));
    let names = |list: &[(String, Vec<u8>)]| list.iter().map(|m| m.0.clone()).collect::<Vec<_>>();
    assert_eq!(names(&before), names(&after));
    for ((name, a), (_, b)) in before.iter().zip(&after) {
        assert!(a == b, "{name}");
    }
    // and the lists of the shelf are
    for list in ["/api/shelf", "/api/amplifiers", "/api/rooms", "/api/builds"] {
        let strip = |w: &Workshop| -> Vec<Value> {
            let mut rows = w.client.get(list).body.as_array().cloned().unwrap_or_default();
            for row in &mut rows {
                let row = row.as_object_mut().unwrap();
                ["id", "updated_at", "version"].iter().for_each(|k| drop(row.remove(*k)));
            }
            rows.sort_by_key(ToString::to_string);
            rows
        };
        assert_eq!(strip(&here), strip(&there), "{list}");
    }
}
