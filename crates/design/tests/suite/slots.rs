//! Ports made of boards: hole, boards and what is told of them agree, worked by hand on a box of 420 x 600 x 485 in 18 mm.

use oak_drum_cabinet::board::{Board, Opening, Role, V3};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::{BuiltCabinet, built};
use oak_drum_design::cabinet::cutting::cutting;
use oak_drum_design::cabinet::materials::bill;
use oak_drum_design::cabinet::mounted_part::Kind;
use oak_drum_design::evaluation::findings::findings;
use oak_drum_document::{Change, Prices, apply, read_value};
use serde_json::{Value, json};

fn analysis(port: Value, changes: &[(&str, Value)]) -> Analysis {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 330, "depth_mm": 120,
                   "cutout_mm": 230, "outside_diameter_mm": 260, "displacement_l": 3},
        "enclosure": {"family": "vented", "net_volume_l": 80, "port": port},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn slot(width: f64, height: f64, walls: u32, length: f64) -> Value {
    json!({"section": {"shape": "slot", "width_mm": width, "height_mm": height}, "count": 1, "walls_alongside": walls,
           "sizing": {"by": "length", "length_mm": length}, "wall_mm": 12})
}

fn port_boards(built: &BuiltCabinet) -> Vec<&Board> {
    built.solids.boards.iter().filter(|b| b.role == Role::Port).collect()
}

fn box_of(boards: &[&Board]) -> [V3; 2] {
    let points: Vec<V3> = boards.iter().flat_map(|b| b.corners()).collect();
    let reach = |k: usize, f: fn(f64, f64) -> f64, from: f64| points.iter().map(|p| p[k]).fold(from, f);
    [[0, 1, 2].map(|k| reach(k, f64::min, f64::INFINITY)), [0, 1, 2].map(|k| reach(k, f64::max, f64::NEG_INFINITY))]
}

/// Where a port's hole is in the cabinet: the corners of its outline.
fn hole(built: &BuiltCabinet, name: &str) -> Vec<V3> {
    let (board, hole) =
        built.solids.boards.iter().find_map(|b| b.holes.iter().find(|h| h.name == name).map(|h| (b, h))).unwrap();
    hole.opening.corners(hole.at).unwrap().into_iter().map(|p| board.place(p, 0.0)).collect()
}

fn assert_near(found: V3, wanted: V3, what: &str) {
    assert!((0..3).all(|k| (found[k] - wanted[k]).abs() < 0.01), "{what}: {found:?} for {wanted:?}");
}

/// A slot in the open, wherever it is moved to: four boards around just the hole, from the baffle's inner face as far as it is long.
#[test]
fn a_free_slot_has_its_boards_around_its_hole() {
    for (across, up) in [(210.0, 120.0), (150.0, 250.0), (300.0, 90.0)] {
        let spot = json!([{"face": "baffle", "across_mm": across, "up_mm": up}]);
        let a = analysis(slot(200.0, 40.0, 0, 250.0), &[("/cabinet/openings_at", spot)]);
        let built = built(&a).unwrap();
        let boards = port_boards(&built);
        assert_eq!(boards.len(), 4);
        let [low, high] = box_of(&boards);
        assert_near(low, [across - 112.0, up - 32.0, 18.0], "low");
        assert_near(high, [across + 112.0, up + 32.0, 250.0], "high");
        let hole = hole(&built, "port");
        assert!(hole.iter().all(|p| (p[0] - across).abs() == 100.0 && (p[1] - up).abs() == 20.0), "{hole:?}");
    }
}

/// Two slots in the lower edges: one in each corner, holes at 18 + 60 and 420 - 18 - 60, each with a lid and a side.
#[test]
fn two_slots_in_two_corners() {
    let mut port = slot(120.0, 40.0, 2, 250.0);
    port["count"] = json!(2);
    let built = built(&analysis(port, &[])).unwrap();
    let spots: Vec<[f64; 2]> =
        built.mounted_parts.iter().filter(|s| s.kind == Kind::Port).map(|s| [s.across_mm, s.up_mm]).collect();
    assert_eq!(spots, [[78.0, 38.0], [342.0, 38.0]]);
    let boards = port_boards(&built);
    assert_eq!(boards.len(), 4);
    let [low, high] = box_of(&boards[..2]);
    assert_near(low, [18.0, 18.0, 18.0], "left");
    assert_near(high, [18.0 + 132.0, 18.0 + 52.0, 250.0], "left");
    let [low, high] = box_of(&boards[2..]);
    assert_near(low, [402.0 - 132.0, 18.0, 18.0], "right");
    assert_near(high, [402.0, 70.0, 250.0], "right");
}

/// Out through the back: the hole is in the back, the board runs from there to the front, and nothing round is bought.
#[test]
fn a_slot_through_the_back() {
    let mut port = slot(384.0, 30.0, 3, 300.0);
    port["leaves"] = json!("back");
    let a = analysis(port, &[]);
    let built = built(&a).unwrap();
    let boards = port_boards(&built);
    assert_eq!(boards.len(), 1);
    let [low, high] = box_of(&boards);
    assert_near(low, [18.0, 48.0, 485.0 - 300.0], "low");
    assert_near(high, [402.0, 60.0, 485.0 - 18.0], "high");
    assert!(hole(&built, "port").iter().all(|p| p[2] == 485.0 && (p[1] == 18.0 || p[1] == 48.0)));
    assert!(!bill(&a, &Prices::default()).unwrap().items.iter().any(|i| i.what.contains("tube")));
}

/// A triangle in a corner of 130: a triangular hole, one board of 130 · √2 inside over it with edges at 45 degrees, which is 2 · 12
/// wider outside; wood and air together are what the ledger takes.
#[test]
fn a_corner_triangle() {
    let port = json!({"section": {"shape": "triangle", "leg_mm": 130}, "count": 2, "sizing": {"by": "length", "length_mm": 250}, "wall_mm": 12});
    let a = analysis(port, &[]);
    let built = built(&a).unwrap();
    let boards = port_boards(&built);
    assert_eq!(boards.len(), 2);
    let long = 130.0 * 2.0f64.sqrt();
    for (board, (x, name)) in boards.iter().zip([(18.0, "port 1"), (402.0, "port 2")]) {
        let size = board.size();
        assert!(
            (size[0].max(size[1]) - 232.0).abs() < 1e-6 && (size[0].min(size[1]) - long - 24.0).abs() < 1e-6,
            "{size:?}"
        );
        // its inner face touches the side at 18 + 130 up and the floor at 130 in, its outer face 12 · √2 farther
        let [low, high] = box_of(&[board]);
        let far = 130.0 + 12.0 * 2.0f64.sqrt();
        assert!((high[1] - 18.0 - far).abs() < 1e-6 && (low[1] - 18.0).abs() < 1e-6, "{low:?} {high:?}");
        assert!(((high[0] - low[0]) - far).abs() < 1e-6 && (low[0] == x || high[0] == x), "{low:?} {high:?}");
        assert!((low[2] - 18.0).abs() < 1e-9 && (high[2] - 250.0).abs() < 1e-9);
        let hole = hole(&built, name);
        assert_eq!(hole.len(), 3);
        assert!(hole.iter().any(|p| (p[0] - x).abs() < 1e-9 && (p[1] - 18.0).abs() < 1e-9), "{hole:?}");
        assert!(hole.iter().any(|p| (p[0] - x).abs() < 1e-9 && (p[1] - 148.0).abs() < 1e-9), "{hole:?}");
    }
    let wood: f64 = boards.iter().map(|b| b.volume()).sum();
    let air = 2.0 * 130.0 * 130.0 / 2.0 * 232.0;
    let line = a.ledger.as_ref().unwrap().lines.iter().find(|l| l.id == "port").unwrap();
    assert!((line.litres + (wood + air) * 1e-6).abs() < 1e-6, "{} {}", line.litres, (wood + air) * 1e-6);
    assert!(!bill(&a, &Prices::default()).unwrap().items.iter().any(|i| i.what.contains("tube")));
    assert!(matches!(
        built.mounted_parts.iter().find(|s| s.kind == Kind::Port).unwrap().opening,
        Opening::Triangle { .. }
    ));
}

/// A slot of 300 in 384 told to run along three walls: drawn as it can be, 300 wide between two boards, and said.
#[test]
fn a_slot_narrower_than_its_box_is_not_made_wider() {
    let a = analysis(slot(300.0, 40.0, 3, 250.0), &[]);
    let boards = built(&a).unwrap();
    let boards = port_boards(&boards);
    assert_eq!(boards.len(), 3);
    let widest = boards.iter().map(|b| b.size()[0].max(b.size()[1])).fold(0.0, f64::max);
    assert!((widest - 324.0).abs() < 1e-9, "{widest}");
    let list = findings(&a);
    assert!(list.iter().any(|f| f.kind == "port_not_as_stated" && f.sentence.contains("300 mm wide")), "{list:?}");
    assert!(!findings(&analysis(slot(384.0, 40.0, 3, 250.0), &[])).iter().any(|f| f.kind == "port_not_as_stated"));
}

/// A slot that turns up the back is along its centre line, with square corners, as long as is told: 449 inside from front to back,
/// so 151 of 600 stand above the channel. Every board of it is of the slot's thickness.
#[test]
fn a_bent_slot_is_as_long_as_told() {
    let mut port = slot(384.0, 30.0, 3, 618.0);
    port["elbows"] = json!(1);
    let a = analysis(port.clone(), &[]);
    let built = built(&a).unwrap();
    let boards = port_boards(&built);
    assert_eq!(boards.len(), 2);
    let [low, high] = box_of(&[boards[1]]);
    // centre line: wall, along the floor to the middle of the rising channel, up from the middle of the lower one
    let (depth, height) = (449.0, 30.0);
    let rising = 485.0 - 18.0 - high[2];
    let length = 18.0 + (depth - rising / 2.0) + (high[1] - 18.0 - height / 2.0);
    assert!((rising - height).abs() < 1e-9 && (length - 618.0).abs() < 1e-9, "{rising} {length}");
    assert!((low[1] - 48.0).abs() < 1e-9);
    assert!(boards.iter().all(|b| (b.thickness_mm - 12.0).abs() < 1e-9));
    assert!(cutting(&a).unwrap().stocks.iter().all(|s| [12.0, 18.0].contains(&s.thickness_mm)));
    // channel and boards together are what the ledger takes
    port["sizing"]["length_mm"] = json!(18.0 + depth + 5.0);
    let list = findings(&analysis(port, &[]));
    assert!(list.iter().any(|f| f.kind == "port_not_as_stated" && f.sentence.contains("its own bend")), "{list:?}");
}

/// Strips end where a slot, its boards or a brace lies in their corner: none takes a part of the channel, and no two solids of the
/// inside share space.
#[test]
fn strips_end_before_what_lies_in_their_corner() {
    let braces = json!([{"kind": "window", "lies": "frontal", "at_mm": 380, "thickness_mm": 18, "open_part": 0.5},
                        {"kind": "shelf", "lies": "level", "at_mm": 400, "thickness_mm": 18, "reach_part": 0.4}]);
    for (port, channel) in [
        (slot(384.0, 30.0, 3, 250.0), [[18.0, 18.0, 18.0], [402.0, 48.0, 250.0]]),
        (slot(120.0, 40.0, 2, 250.0), [[18.0, 18.0, 18.0], [138.0, 58.0, 250.0]]),
    ] {
        let a = analysis(port, &[("/cabinet/strips_mm", json!(20)), ("/cabinet/braces", braces.clone())]);
        let built = built(&a).unwrap();
        let inside: Vec<[V3; 2]> = built
            .solids
            .boards
            .iter()
            .filter(|b| matches!(b.role, Role::Strip | Role::Port | Role::Brace) && b.holes.is_empty())
            .map(|b| box_of(&[b]))
            .chain([channel])
            .collect();
        assert!(built.solids.boards.iter().filter(|b| b.role == Role::Strip).count() >= 12);
        for (i, a) in inside.iter().enumerate() {
            for b in &inside[i + 1..] {
                let share = (0..3).all(|k| a[1][k].min(b[1][k]) - a[0][k].max(b[0][k]) > 0.01);
                assert!(!share, "{a:?} {b:?}");
            }
        }
    }
}

/// A sixth-order box whose rear port leads into the front chamber: it has its mounted part, its hole in the board between and a template.
#[test]
fn a_port_between_the_chambers_has_its_hole() {
    let port = |hz: f64| json!({"section": {"shape": "round", "diameter_mm": 80}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": hz}});
    let enclosure = json!({"family": "bandpass_sixth", "front_volume_l": 30, "rear_volume_l": 40, "front_port": port(60.0),
        "rear_port": port(30.0), "leads": "front_chamber"});
    let a = analysis(json!({}), &[("/enclosure", enclosure)]);
    let built = built(&a).unwrap();
    let mounted_part = built.mounted_parts.iter().find(|s| s.name == "inner port").unwrap();
    assert!(mounted_part.face.is_none() && mounted_part.kind == Kind::Port);
    let board = built.solids.boards.iter().find(|b| b.name == "Woofer board").unwrap();
    let hole = board.holes.iter().find(|h| h.name == "inner port").unwrap();
    // 80 inside, walls of the tube on both sides, and the fit
    assert!(
        matches!(hole.opening, Opening::Round { diameter_mm } if diameter_mm > 80.0 && diameter_mm < 95.0),
        "{hole:?}"
    );
    let woofer = board.holes.iter().find(|h| h.name == "woofer").unwrap();
    let apart = (hole.at[0] - woofer.at[0]).hypot(hole.at[1] - woofer.at[1]);
    assert!(apart > 115.0 + 45.0, "{apart}");
    let drawings = oak_drum_design::cabinet::drawings::drawings(&a).unwrap();
    assert!(drawings.iter().any(|d| d.drawing.title.contains("inner port")));
}
