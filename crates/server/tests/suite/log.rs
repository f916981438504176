//! A build's log over HTTP: entries kept once, photos without what a camera adds, the timeline, bad input.

use crate::client::Client;
use image::{DynamicImage, ImageFormat, Rgb, RgbImage, Rgba, RgbaImage};
use oak_drum_testkit::{Cluster, Server};
use serde_json::{Value, json};
use std::io::Cursor;
use std::path::Path;

const BINARY: &str = env!("CARGO_BIN_EXE_oak-drum-server");

fn written(image: impl Into<DynamicImage>, format: ImageFormat) -> Vec<u8> {
    let mut bytes = Cursor::new(Vec::new());
    image.into().write_to(&mut bytes, format).unwrap();
    bytes.into_inner()
}

/// Left half red, right half blue.
fn halves(width: u32, height: u32) -> RgbImage {
    RgbImage::from_fn(width, height, |x, _| if x < width / 2 { Rgb([220, 20, 20]) } else { Rgb([20, 20, 220]) })
}

/// A segment as cameras write it (TIFF 6.0, Exif 2.3): turned by `orientation`, taken at 51° 28' N.
pub fn with_exif(jpeg: &[u8], orientation: u8) -> Vec<u8> {
    let mut tiff: Vec<u8> = b"II*\0\x08\0\0\0".to_vec();
    let entry = |tag: u16, kind: u16, count: u32, value: [u8; 4]| {
        [&tag.to_le_bytes()[..], &kind.to_le_bytes(), &count.to_le_bytes(), &value].concat()
    };
    tiff.extend(2u16.to_le_bytes());
    tiff.extend(entry(0x0112, 3, 1, [orientation, 0, 0, 0]));
    tiff.extend(entry(0x8825, 4, 1, 38u32.to_le_bytes()));
    tiff.extend([0; 4]);
    // places: reference and degrees, minutes, seconds
    tiff.extend(2u16.to_le_bytes());
    tiff.extend(entry(1, 2, 2, [b'N', 0, 0, 0]));
    tiff.extend(entry(2, 5, 3, 68u32.to_le_bytes()));
    tiff.extend([0; 4]);
    for part in [51u32, 1, 28, 1, 40, 1] {
        tiff.extend(part.to_le_bytes());
    }
    let body = [&b"Exif\0\0"[..], &tiff].concat();
    let length = u16::try_from(body.len() + 2).unwrap().to_be_bytes();
    [&jpeg[..2], &[0xff, 0xe1], &length, &body, &jpeg[2..]].concat()
}

/// Marks of a JPEG's segments (ITU-T T.81, table B.1) up to the picture's own data.
fn segments(jpeg: &[u8]) -> Vec<u8> {
    assert_eq!(jpeg[..2], [0xff, 0xd8]);
    let (mut at, mut list) = (2, Vec::new());
    while jpeg[at] == 0xff {
        list.push(jpeg[at + 1]);
        if jpeg[at + 1] == 0xda {
            return list;
        }
        at += 2 + usize::from(u16::from_be_bytes([jpeg[at + 2], jpeg[at + 3]]));
    }
    panic!("no picture");
}

#[test]
fn a_log_over_http() {
    let cluster = Cluster::shared().unwrap();
    let url = cluster.database().unwrap();
    let server = Server::start(Path::new(BINARY), &["--database", &url, "--listen", "127.0.0.1:0"]).unwrap();
    let client = Client::new(&server.address);
    client.wait_until_ready();
    let document = json!({"format": "oak-drum-design", "version": 8, "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120,
        "re_ohm": 5.6, "sd_cm2": 530}, "enclosure": {"family": "sealed", "net_volume_l": 60}});
    let made = client.post("/api/builds", &json!({"name": "Barn", "document": document}));
    let build = made.body["id"].as_str().unwrap().to_owned();
    let shown = photos(&client);
    entries(&client, &build, &shown);
    timeline(&client, &build, &made.body["revisions"][0], document);
}

/// What is kept is upright, small enough, and the picture alone: no segment of metadata is left.
fn photos(client: &Client) -> Value {
    let keep = |bytes: &[u8]| client.sent("/api/photos", bytes, "image/jpeg");
    let camera = with_exif(&written(halves(2600, 1300), ImageFormat::Jpeg), 6);
    assert!(segments(&camera).contains(&0xe1) && camera.windows(4).any(|w| w == b"Exif"));
    let kept = keep(&camera);
    assert_eq!(kept.status, 201, "{}", kept.text);
    assert_eq!((kept.body["width"].as_u64(), kept.body["height"].as_u64()), (Some(1000), Some(2000)), "turned, scaled");
    assert_eq!(keep(&camera).body, kept.body, "kept once");
    let path = format!("/api/photos/{}", kept.body["digest"].as_str().unwrap());
    for (address, longest) in [(path.clone(), 2000), (format!("{path}?small=true"), 400)] {
        let back = client.get(&address);
        assert_eq!((back.status, back.kind.as_str()), (200, "image/jpeg"));
        let extra: Vec<u8> =
            segments(&back.bytes).into_iter().filter(|m| (0xe1..=0xef).contains(m) || *m == 0xfe).collect();
        assert!(extra.is_empty(), "{extra:x?}");
        assert!(!back.bytes.windows(4).any(|w| w == b"Exif"));
        let picture = image::load_from_memory(&back.bytes).unwrap().into_rgb8();
        assert_eq!(picture.height(), longest);
        // a quarter turn clockwise puts the left half on top
        let (top, low) = (picture.get_pixel(20, 40).0, picture.get_pixel(20, longest - 40).0);
        assert!(top[0] > 150 && top[2] < 90 && low[2] > 150 && low[0] < 90, "{top:?} {low:?}");
    }
    // what is transparent is paper
    let clear = keep(&written(RgbaImage::from_pixel(60, 40, Rgba([0, 0, 0, 0])), ImageFormat::Png));
    let paper = client.get(&format!("/api/photos/{}", clear.body["digest"].as_str().unwrap()));
    assert!(image::load_from_memory(&paper.bytes).unwrap().into_rgb8().get_pixel(5, 5).0.iter().all(|c| *c > 250));

    // no photos: a script, a page, half a picture, one that claims to be endless, nothing, one far too large
    let whole = written(halves(300, 200), ImageFormat::Png);
    let mut endless = whole.clone();
    endless[16..24].copy_from_slice(&[0, 0, 0xff, 0xff, 0, 0, 0xff, 0xff]);
    for bad in
        [&b"#!/bin/sh\nrm -rf /\n"[..], b"<svg onload='alert(1)'></svg>", &whole[..whole.len() / 2], &endless, b""]
    {
        let refused = keep(bad);
        assert_eq!(refused.status, 422, "{}", refused.text);
        assert!(refused.body["detail"].as_str().unwrap().contains("photo"), "{}", refused.text);
    }
    let large = keep(&vec![0u8; 49 << 20]);
    assert_eq!(large.status, 413);
    for nowhere in ["/api/photos/ab", &format!("/api/photos/{}", "0".repeat(64)), "/api/photos/..%2f..%2fetc%2fpasswd"]
    {
        assert_eq!(client.get(nowhere).status, 404, "{nowhere}");
    }
    kept.body
}

fn entries(client: &Client, build: &str, shown: &Value) {
    let all = format!("/api/builds/{build}/log");
    let send = |key: &str, base: i32, entry: &Value, written: &str, sent: &str| {
        let body = json!({"base_version": base, "entry": entry, "written_at": written, "sent_at": sent});
        client.put(&format!("{all}/{key}"), &body)
    };
    let key = "018f0000-0000-7000-8000-000000000001";
    let first = json!({"text": "Dry fit: no gap", "photos": [shown], "tied": {"step": "dry_fit", "revision": "A"}});
    let at = ["2031-01-01T08:00:00Z", "2031-01-01T09:00:00Z"];
    let kept = send(key, 0, &first, at[0], at[1]);
    assert_eq!(kept.status, 200, "{}", kept.text);
    // an hour ago by the server's clock, though the phone is years ahead; once more sent nothing changes
    let told: chrono::DateTime<chrono::Utc> = kept.body["written_at"].as_str().unwrap().parse().unwrap();
    let ago = chrono::Utc::now() - told;
    assert!((3590..3700).contains(&ago.num_seconds()), "{ago}");
    assert_eq!(send(key, 0, &first, at[0], at[1]).body, kept.body);
    let mistake = json!({"kind": "mistake", "text": "Side 2 mm short"});
    assert_eq!(send("018f0000-0000-7000-8000-000000000002", 0, &mistake, at[0], at[0]).status, 200);
    let page = client.get(&all).body;
    assert_eq!(
        (page["count"].as_i64(), page["entries"][0]["document"]["text"].as_str()),
        (Some(2), Some("Side 2 mm short"))
    );
    assert_eq!(client.get(&format!("{all}?kind=mistake")).body["entries"].as_array().unwrap().len(), 1);
    assert_eq!(client.get(&format!("{all}?words=gap%20dry")).body["entries"].as_array().unwrap().len(), 1);
    assert_eq!(client.get(&format!("{all}?kind=poem")).status, 422);
    assert_eq!(client.get(&format!("{all}?before=yesterday")).status, 422);
    // what does not fit, at its field
    for (bad, field) in [
        (json!({"text": "  "}), "/entry/text"),
        (json!({"text": "x".repeat(20_001)}), "/entry/text"),
        (json!({"text": "x", "kind": "poem"}), "/entry/kind"),
        (json!({"photos": [{"digest": "f".repeat(64), "width": 4, "height": 3}]}), "/entry/photos/0/digest"),
        (json!({"photos": [{"digest": "../../etc", "width": 4, "height": 3}]}), "/entry/photos/0/digest"),
        (json!({"text": "x", "author": "me"}), "/entry/author"),
    ] {
        let refused = send("018f0000-0000-7000-8000-000000000003", 0, &bad, at[0], at[1]);
        assert_eq!(refused.status, 422, "{}", refused.text);
        assert_eq!(refused.body["errors"][0]["pointer"], field, "{}", refused.text);
    }
    let nobody = format!("/api/builds/018f0000-0000-7000-8000-00000000000f/log/{key}");
    let body = json!({"base_version": 0, "entry": first, "written_at": at[0], "sent_at": at[1]});
    assert_eq!(client.put(&nobody, &body).status, 404);
    let path = format!("/api/log/{key}");
    assert_eq!(Client::answer(client.agent.delete(format!("{}{path}", client.base)).call()).status, 204);
    assert_eq!(client.get(&all).body["count"], 1);
    assert_eq!(client.post(&format!("{path}/restore"), &json!({})).status, 204);
    assert_eq!(client.get(&all).body["count"], 2);
}

/// The program knows by itself when a revision was begun, what of it became another, and which steps were done.
fn timeline(client: &Client, build: &str, revision: &Value, mut document: Value) {
    let path = format!("/api/revisions/{}", revision["id"].as_str().unwrap());
    for litres in [70.0, 82.0] {
        document["enclosure"]["net_volume_l"] = json!(litres);
        let base = client.get(&format!("/api/builds/{build}")).body["revisions"][0]["version"].clone();
        assert_eq!(client.put(&path, &json!({"base_version": base, "document": document})).status, 200);
    }
    let work = json!({"steps": [{"step": "cut", "done": true, "done_at": "2026-02-01T10:00:00Z"}, {"step": "holes", "done": true}]});
    assert_eq!(client.put(&format!("{path}/work"), &json!({"base_version": 0, "work": work})).status, 200);
    let told = client.get(&format!("/api/builds/{build}/timeline")).body;
    let list = told.as_array().unwrap();
    let kinds: Vec<&str> = list.iter().map(|e| e["kind"].as_str().unwrap()).collect();
    assert_eq!(kinds, ["changed", "begun", "step"], "{told}");
    let words = list[0]["text"].to_string();
    assert!(words.contains("net volume") && words.contains("60 L") && words.contains("82 L"), "{words}");
    assert_eq!((&list[0]["revision"], &list[2]["text"]), (&json!("A"), &json!(["cut"])));
    assert_eq!(client.get("/api/builds/018f0000-0000-7000-8000-00000000000f/timeline").status, 404);
}
