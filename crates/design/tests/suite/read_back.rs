//! What is written about a cabinet, read back by libraries that know nothing of this project (testdata/cabinet/read_back): solids
//! by manifold3d and trimesh, DXF by ezdxf, PDF by pypdf, layouts beside rectpack's. `scripts/test` installs them in
//! target/python; where they are not, the test says so and passes.

use oak_drum_cabinet::board::{Board, area};
use oak_drum_cabinet::drawing::{LAYERS, dxf};
use oak_drum_cabinet::sheets::{Piece, Sheet, layout};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::built;
use oak_drum_design::cabinet::cutting::cutting;
use oak_drum_design::cabinet::drawings::drawings;
use oak_drum_design::cabinet::printed_plan::plan;
use oak_drum_document::{Change, WorkPlan, Workshop, apply, read_value};
use oak_drum_paper::{self as pdf, Block, Paper};
use oak_drum_text::System;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::Command;

fn project() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

/// A box, and what the cases change of it.
fn analysis(changes: &[(&str, Value)]) -> Analysis {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5, "name": "Read back",
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120,
                   "cutout_mm": 283, "outside_diameter_mm": 315, "magnet_diameter_mm": 150},
        "enclosure": {"family": "vented", "net_volume_l": 70,
                      "port": {"section": {"shape": "round", "diameter_mm": 105}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 30}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 36, "baffle_layers": 2},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn cases() -> Vec<(&'static str, Analysis)> {
    let line = json!({"family": "transmission_line", "length_mm": 1980, "woofer_at_mm": 400,
        "profile": {"shape": "tapered", "closed_end_cm2": 500, "open_end_cm2": 250}});
    let horn = json!({"family": "front_horn", "rear_volume_l": 60, "throat_chamber_l": 4,
        "horn": {"throat_cm2": 400, "mouth_cm2": 4000, "profile": {"shape": "exponential", "length_mm": 1900}}});
    let folded = |width: f64, height: f64, depth: f64, fold: Value| json!({"width_mm": width, "height_mm": height, "depth_mm": depth, "panel_mm": 18, "baffle_mm": 18, "fold": fold});
    let braces = json!([{"kind": "window", "lies": "level", "at_mm": 140, "thickness_mm": 18, "open_part": 0.5},
        {"kind": "dowel", "ties": "sides", "at_mm": 330, "and_mm": 400, "diameter_mm": 30}]);
    let bay = json!({"kind": "own_chamber", "width_mm": 180, "height_mm": 150, "depth_mm": 90,
        "at": {"face": "back", "across_mm": 210, "up_mm": 450}});
    vec![
        ("vented", analysis(&[("/cabinet/strips_mm", json!(19)), ("/cabinet/braces", braces)])),
        ("bay", analysis(&[("/cabinet/amplifier", bay)])),
        ("sloped", analysis(&[("/cabinet/shape", json!({"kind": "sloped", "back_mm": 80}))])),
        ("stepped", analysis(&[("/cabinet/shape", json!({"kind": "stepped", "at_mm": 230, "back_mm": 60}))])),
        (
            "tube",
            analysis(&[("/cabinet/shape", json!({"kind": "tube", "wall_mm": 9})), ("/cabinet/width_mm", json!(450))]),
        ),
        (
            "line",
            analysis(&[("/enclosure", line), ("/cabinet", folded(420.0, 1020.0, 276.0, json!({"pattern": "u"})))]),
        ),
        (
            "horn",
            analysis(&[
                ("/enclosure", horn),
                (
                    "/cabinet",
                    folded(700.0, 1000.0, 640.0, json!({"pattern": "s", "runs": "level", "begins": "top_or_back"})),
                ),
            ]),
        ),
    ]
}

/// Pieces of sizes that look random and are the same each time.
fn instances() -> Vec<(Sheet, Vec<Piece>)> {
    let mut seed = 42_u64;
    let mut next = |low: f64, high: f64| {
        seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (low + (high - low) * (seed >> 40) as f64 / (1u64 << 24) as f64).round()
    };
    [12, 20, 28, 40, 40, 60]
        .into_iter()
        .map(|count| {
            let sheet = Sheet { length: 2440.0, width: 1220.0, kerf: 3.0, trim: 0.0, grain: false };
            let pieces = (0..count)
                .map(|i| Piece { label: i.to_string(), length: next(180.0, 900.0), width: next(90.0, 600.0) })
                .collect();
            (sheet, pieces)
        })
        .collect()
}

#[test]
#[ignore = "wants the reference libraries in target/python: scripts/test installs them and runs this"]
fn what_is_written_reads_back() {
    let python = project().join("target/python/bin/python");
    let folder = std::env::temp_dir().join(format!("oak-drum-read-back-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let write = |name: String, bytes: Vec<u8>| std::fs::write(folder.join(name), bytes).unwrap();
    let cases = cases();
    for (name, analysis) in &cases {
        let built = built(analysis).unwrap_or_else(|| panic!("{name}"));
        assert!(!matches!(analysis.fold, Some(Err(_))), "{name}: {:?}", analysis.fold);
        write(format!("{name}.boards.json"), serde_json::to_vec(&built.solids.boards).unwrap());
        for mut named in drawings(analysis).unwrap() {
            // the woofer's, wherever it comes in the list
            if named.id.starts_with("template") {
                let woofer = named.drawing.title.contains("woofer");
                named.id = if woofer { "template-0" } else { "template" }.into();
            }
            if named.id == "parts" || named.id == "template-0" || named.id == "front" {
                write(format!("{name}-{}.dxf", named.id), dxf::write(&named.drawing).unwrap());
            }
            if named.id == "template-0" {
                for (paper, word) in [(Paper::A4, "a4"), (Paper::Letter, "letter")] {
                    let pages = pdf::write("t", paper, System::Metric, &[Block::RealSize(named.drawing.clone())]);
                    write(format!("{name}-{}-{word}.pdf", named.id), pages.unwrap());
                }
            }
        }
        write(
            format!("{name}-plan.pdf"),
            pdf::write(
                "Plan",
                Paper::A4,
                System::Metric,
                &plan(analysis, "Plan", &[], &WorkPlan::default(), &Workshop::default()).unwrap(),
            )
            .unwrap(),
        );
    }
    let instances = instances();
    let packing: Vec<Value> = instances
        .iter()
        .map(|(s, pieces)| json!({"kerf": s.kerf, "sheet": [s.length, s.width], "pieces": pieces.iter().map(|p| [p.length, p.width]).collect::<Vec<_>>()}))
        .collect();
    write("sheets.json".into(), serde_json::to_vec(&packing).unwrap());
    let run =
        Command::new(&python).arg(project().join("testdata/cabinet/read_back/check.py")).arg(&folder).output().unwrap();
    assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    let found: Value = serde_json::from_slice(&run.stdout).unwrap();
    std::fs::remove_dir_all(&folder).unwrap();

    for (name, analysis) in &cases {
        let built = built(analysis).unwrap();
        let boards = &built.solids.boards;
        let near = |ours: f64, theirs: &Value, what: &str| {
            let theirs = theirs.as_f64().unwrap();
            assert!((ours / theirs - 1.0).abs() < 1e-3, "{name}, {what}: {ours} against {theirs}");
        };
        let solid = &found["solids"][*name];
        assert_eq!(solid["watertight"], true, "{name}");
        // boards that overlapped would come to less when united
        let wood: f64 = boards.iter().map(Board::volume).sum();
        near(wood, &solid["wood_mm3"], "wood");
        for axis in 0..3 {
            let moment: f64 = boards.iter().map(|b| b.volume() * b.centroid()[axis]).sum();
            let theirs = solid["centroid_mm"][axis].as_f64().unwrap();
            assert!((moment / wood - theirs).abs() < 1.0, "{name}, centroid {axis}: {} {theirs}", moment / wood);
        }
        // the hull less the boards is the air of the ledger, and the amplifier's; a step's corner and a mouth in the front are
        // not inside
        if !["stepped", "horn"].contains(name) {
            let lines = &analysis.ledger.as_ref().unwrap().lines;
            let counted = ["outside", "panels", "braces", "strips", "fold", "amplifier"];
            let air: f64 = lines.iter().filter(|l| counted.contains(&l.id.as_str())).map(|l| l.litres).sum();
            let port: f64 =
                boards.iter().filter(|b| b.role == oak_drum_cabinet::board::Role::Port).map(Board::volume).sum();
            near(air * 1e6 + built.solids.bay - port, &solid["void_mm3"], "air");
        }

        let parts = &found["dxf"][format!("{name}-parts")];
        assert_eq!((parts["errors"].as_u64(), parts["units"].as_u64()), (Some(0), Some(4)), "{name}");
        assert_eq!(parts["open_outlines"], 0, "{name}");
        // every piece by its line in the cut list; what is cut to an outline by that
        let sawn: f64 = cutting(analysis)
            .unwrap()
            .parts
            .iter()
            .map(|p| {
                let whole = p.part.length_mm * p.part.width_mm;
                let board = &boards[p.part.boards[0] as usize];
                let each = match p.part.edges.metric() {
                    e if e.contains("outline") || e.contains("at an angle") => area(&board.flat()).abs(),
                    e if e.contains("round, ") => whole * std::f64::consts::PI / 4.0,
                    _ => whole,
                };
                each * f64::from(p.part.count)
            })
            .sum();
        let off = sawn / parts["outline_mm2"].as_f64().unwrap() - 1.0;
        // a disc is drawn as a circle and counted here by its corners
        assert!(off.abs() < 2e-3, "{name}: {off}");
        let layers: Vec<&str> = parts["layers"].as_array().unwrap().iter().filter_map(Value::as_str).collect();
        assert!(LAYERS.iter().all(|l| layers.contains(&l.1)), "{name}: {layers:?}");
        for file in ["parts", "template-0", "front"] {
            let used = found["dxf"][format!("{name}-{file}")]["used"].as_array().unwrap();
            assert!(used.iter().all(|l| LAYERS.iter().any(|known| *l == known.1)), "{name} {file}: {used:?}");
        }
        // the woofer's hole with its allowance, in the drawing and on paper
        let cut = &found["dxf"][format!("{name}-template-0")]["cut_diameters_mm"];
        assert_eq!(cut, &json!([285.0]), "{name}");
        for (word, size) in [("a4", [595.3, 841.9]), ("letter", [612.0, 792.0])] {
            let pages = &found["pdf"][format!("{name}-template-0-{word}")];
            assert_eq!(pages["sizes_pt"], json!([size]), "{name}");
            let circles: Vec<f64> = pages["circles_mm"].as_array().unwrap().iter().filter_map(Value::as_f64).collect();
            assert!(circles.iter().any(|c| (c - 285.0).abs() < 0.05), "{name}: {circles:?}");
            assert!(pages["pages"].as_u64().unwrap() >= 4, "{name}: larger than a sheet of paper");
            assert!(pages["text"].as_str().unwrap().contains("Print at 100 %"));
        }
        let plan = &found["pdf"][format!("{name}-plan")];
        assert_eq!(plan["sizes_pt"], json!([[595.3, 841.9]]));
        let text = plan["text"].as_str().unwrap().split_whitespace().collect::<Vec<_>>().join(" ");
        for words in
            ["Cut list", "To buy", "Building it", "MDF dust wants a mask", "Listen for leaks", "licensed electrician"]
        {
            assert!(text.contains(words), "{name}: no \"{words}\"");
        }
    }
    // no more sheets than a packer of another make, and never fewer than the areas allow
    for ((sheet, pieces), theirs) in instances.iter().zip(found["sheets"].as_array().unwrap()) {
        let ours = layout(sheet, pieces);
        let theirs = theirs.as_u64().unwrap() as u32;
        assert!(
            ours.sheets <= theirs && ours.sheets >= ours.bound,
            "{} pieces: {} against {theirs}, bound {}",
            pieces.len(),
            ours.sheets,
            ours.bound
        );
    }
}
