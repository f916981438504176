//! Pages, read back by others: pypdf (testdata/paper/read.py, in target/python) and pdftotext of poppler-utils.

use image::codecs::jpeg::JpegEncoder;
use image::{ExtendedColorType, RgbImage};
use oak_drum_cabinet::drawing::{Drawing, Item, Layer};
use oak_drum_paper::block::Photo;
use oak_drum_paper::setting::Setter;
use oak_drum_paper::{Block, Paper, write};
use oak_drum_text::System;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::Command;

/// A page of words: the same sentence or names in many alphabets (names are invented; the first lines are pangrams in common use).
const ALPHABETS: [(&str, &str); 19] = [
    ("Polish", "Pchnąć w tę łódź jeża lub ośm skrzyń fig"),
    ("Czech", "Příliš žluťoučký kůň úpěl ďábelské ódy"),
    ("Greek", "Ξεσκεπάζω την ψυχοφθόρα βδελυγμία"),
    ("Hungarian", "Árvíztűrő tükörfúrógép"),
    ("Turkish", "Pijamalı hasta yağız şoföre çabucak güvendi"),
    ("Russian", "Съешь же ещё этих мягких французских булок"),
    ("Vietnamese", "Tiếng trầm rõ ràng"),
    ("Hebrew", "דג סקרן שט בים"),
    ("Arabic", "نص حكيم له سر قاطع"),
    ("Armenian", "Բելլ դղյակի ձախ ժամն"),
    ("Georgian", "ბასის ყუთი"),
    ("Devanagari", "ऋषियों को सताने वाले"),
    ("Bengali", "গভীর শব্দ"),
    ("Tamil", "ஆழமான ஒலி"),
    ("Thai", "เสียงทุ้มลึก"),
    ("Ethiopic", "ጥልቅ ድምፅ"),
    ("Japanese", "低い音のはこ"),
    ("Chinese", "低音炮箱体"),
    ("Korean", "낮은 소리 상자"),
];

struct File(PathBuf);

impl Drop for File {
    fn drop(&mut self) {
        drop(std::fs::remove_file(&self.0));
    }
}

fn kept(name: &str, pdf: &[u8]) -> File {
    let path = std::env::temp_dir().join(format!("oak-drum-paper-{}-{name}.pdf", std::process::id()));
    std::fs::write(&path, pdf).unwrap();
    File(path)
}

fn read_back(file: &File) -> Value {
    let project = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let run = Command::new(project.join("target/python/bin/python"))
        .arg(project.join("testdata/paper/read.py"))
        .arg(&file.0)
        .output()
        .unwrap();
    assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    serde_json::from_slice(&run.stdout).unwrap()
}

fn words(of: &str) -> Block {
    Block::Words(of.into())
}

#[test]
#[ignore = "wants pypdf in target/python and pdftotext: scripts/test installs them and runs this"]
fn every_alphabet_is_printed_and_read_back() {
    let blocks: Vec<Block> = ALPHABETS.iter().map(|(name, line)| words(&format!("{name}: {line}."))).collect();
    let pdf = write("Žluťoučký kůň, Ξεσκεπάζω", Paper::A4, System::Metric, &blocks).unwrap();
    let file = kept("alphabets", &pdf);
    let read = read_back(&file);
    assert_eq!(read["title"], "Žluťoučký kůň, Ξεσκεπάζω");
    let fonts = read["pages"][0]["fonts"].as_array().unwrap();
    assert!(fonts.len() >= 8, "{fonts:?}");
    assert!(fonts.iter().all(|f| f["embedded"] == true && f["unicode"] == true), "{fonts:?}");
    let whole = read["pages"][0]["words"].as_str().unwrap().to_owned();
    let poppler = Command::new("pdftotext").arg("-layout").arg(&file.0).arg("-").output().unwrap();
    let poppler = String::from_utf8_lossy(&poppler.stdout).into_owned();
    let flat = |s: &str| s.split_whitespace().collect::<Vec<_>>().join(" ");
    for (name, line) in ALPHABETS {
        // pypdf reads letter by letter from left to right and does not know what shapes of several letters stand for
        if !["Hebrew", "Arabic", "Devanagari", "Bengali", "Tamil", "Thai"].contains(&name) {
            assert!(flat(&whole).contains(line), "pypdf, {name}: {whole}");
        }
        // poppler puts what runs from the right into its order again
        let every = line.split(' ').all(|word| poppler.contains(word));
        assert!(every, "poppler, {name}: {poppler}");
    }
    // no letter is without its shape
    let mut setter = Setter::new();
    for (name, line) in ALPHABETS {
        for bold in [false, true] {
            let set = setter.line(line, 4.0, bold);
            let missing = set.runs.iter().flat_map(|r| &r.placed).filter(|p| p.glyph == 0).count();
            assert_eq!(missing, 0, "{name}, bold {bold}");
        }
    }
}

#[test]
#[ignore = "wants pypdf in target/python: scripts/test installs it and runs this"]
fn a_booklet_has_contents_numbers_and_pictures() {
    let mut jpeg = Vec::new();
    let picture = RgbImage::from_fn(320, 200, |x, y| image::Rgb([x as u8, y as u8, 90]));
    JpegEncoder::new(&mut jpeg).encode(&picture, 320, 200, ExtendedColorType::Rgb8).unwrap();
    let photo = Photo { jpeg, width: 320, height: 200 };
    let mut blocks = vec![
        Block::Cover { title: "Šuplík basů".into(), under: "What became of it".into() },
        Block::Contents,
        Block::Break,
    ];
    for i in 0..6 {
        blocks.push(Block::Part(format!("Part {i}").into()));
        let rows: Vec<Vec<_>> =
            (0..40).map(|k| vec![format!("row {i}.{k}").into(), "what stands beside it".into()]).collect();
        blocks.push(Block::Table { widths: vec![1.0, 3.0], rows });
        blocks.push(Block::Photos(vec![photo.clone(), photo.clone()]));
    }
    for paper in [Paper::A4, Paper::Letter] {
        let pdf = write("Šuplík", paper, System::Metric, &blocks).unwrap();
        // the picture is kept once
        assert!(pdf.len() < 400_000, "{}", pdf.len());
        let read = read_back(&kept(&format!("{paper:?}"), &pdf));
        let pages = read["pages"].as_array().unwrap();
        let of = paper.size().map(|mm| mm / 25.4 * 72.0);
        for (i, page) in pages.iter().enumerate() {
            let size: Vec<f64> = page["size_pt"].as_array().unwrap().iter().filter_map(Value::as_f64).collect();
            assert!((size[0] - of[0]).abs() < 0.1 && (size[1] - of[1]).abs() < 0.1, "{size:?}");
            let number = format!("{} / {}", i + 1, pages.len());
            assert!(page["words"].as_str().unwrap().contains(&number), "{number}: {}", page["words"]);
        }
        // every row is there once, on whatever page
        let all: String = pages.iter().filter_map(|p| p["words"].as_str()).collect::<Vec<_>>().join("\n");
        for i in 0..6 {
            assert_eq!(all.matches(&format!("row {i}.39")).count(), 1);
        }
        // the contents tell where a part begins, lead there, and the outline says the same
        let outline = read["outline"].as_array().unwrap();
        assert_eq!(outline.len(), 6);
        assert_eq!(pages[0]["links"], 6);
        for (i, entry) in outline.iter().enumerate() {
            assert_eq!(entry[0], format!("Part {i}"));
            let page = entry[1].as_u64().unwrap() as usize;
            assert!(pages[page]["words"].as_str().unwrap().contains(&format!("Part {i}")), "{entry}");
            let told = pages[0]["words"].as_str().unwrap();
            assert!(told.lines().any(|l| l.contains(&(page + 1).to_string())), "{told}");
        }
        // the same one twice on a page is named there once
        assert_eq!(pages.iter().map(|p| p["pictures"].as_array().unwrap().len()).sum::<usize>(), 6);
        assert_eq!(pages.iter().flat_map(|p| p["pictures"].as_array().unwrap()).next(), Some(&json!([320, 200])));
    }
}

#[test]
fn lines_keep_to_their_width() {
    let mut setter = Setter::new();
    let long = "one two three four five six seven eight nine ten ".repeat(8) + &"unbreakable".repeat(12);
    for size in [3.0, 4.5] {
        for bold in [false, true] {
            let lines = setter.lines(&long, size, bold, 50.0);
            assert!(lines.len() > 5);
            assert!(lines.iter().all(|l| l.width <= 50.01), "{:?}", lines.iter().map(|l| l.width).collect::<Vec<_>>());
        }
    }
    // bold runs wider, twice the size twice as wide
    let wide = |setter: &mut Setter, size: f64, bold: bool| setter.line("Hamburgefonts", size, bold).width;
    let (plain, bold, large) =
        (wide(&mut setter, 4.0, false), wide(&mut setter, 4.0, true), wide(&mut setter, 8.0, false));
    assert!(bold > plain && (large / plain - 2.0).abs() < 1e-3, "{plain} {bold} {large}");
    // nothing is one empty line, what ends with one too
    assert_eq!(setter.lines("", 3.0, false, 10.0).len(), 1);
    assert_eq!(setter.lines("a\nb", 3.0, false, 10.0).len(), 2);
    // what runs from the right begins there
    assert!(setter.line("דג סקרן", 4.0, false).from_right && !setter.line("fish", 4.0, false).from_right);
}

#[test]
fn what_cannot_be_printed_is_said() {
    let no_photo = Block::Photos(vec![Photo { jpeg: b"<script>".to_vec(), width: 10, height: 10 }]);
    let refused = write("t", Paper::A4, System::Metric, &[no_photo]).unwrap_err();
    assert!(refused.to_string().contains("a photo"), "{refused}");
    // a row higher than a page, a drawing without anything, no block at all
    let high = "word ".repeat(9000);
    let table = Block::Table { widths: vec![1.0, 1.0], rows: vec![vec![high.as_str().into(), "b".into()]] };
    let empty = Drawing::new("", 3.0);
    for blocks in [vec![table], vec![Block::Picture(empty.clone()), Block::Plot(empty)], Vec::new()] {
        assert!(write("t", Paper::Letter, System::Inch, &blocks).unwrap().starts_with(b"%PDF"));
    }
    // a ring of no points, a circle of no size
    let mut odd = Drawing::new("odd", 3.0);
    odd.add(Layer::Outline, Item::Ring(Vec::new(), true));
    odd.add(Layer::Cut, Item::Circle([0.0, 0.0], 0.0));
    odd.add(Layer::Outline, Item::Line([0.0, 0.0], [0.0, 0.0]));
    assert!(write("t", Paper::A4, System::Metric, &[Block::RealSize(odd)]).is_ok());
}
