//! How long each step takes at the bench, what it is done with, how many hands it wants, what has to dry after it.
//!
//! Minutes are estimates of common practice for somebody who builds now and then; they grow with what there is to cut, to drill and
//! to coat. What this builder really took is learned from his own clocks ([`crate::cabinet::days`]).

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::cutting::{Cutting, heaviest_sheet};
use crate::cabinet::finishing;
use crate::cabinet::lifting::Lifting;
use crate::cabinet::materials::{finish_m2, whole_kg};
use crate::cabinet::products::{self, Product};
use oak_drum_cabinet::board::Role;
use oak_drum_document::Days;

/// What the work of steps hangs on.
pub(super) struct Amounts {
    pieces: f64,
    settings: f64,
    holes: f64,
    screws: f64,
    boards: f64,
    braces: f64,
    outside_m2: f64,
    sheet_hands: u32,
    whole_hands: u32,
}

fn hands(kg: f64) -> u32 {
    match Lifting::of(kg) {
        Lifting::One => 1,
        // two tip it onto the trolley
        Lifting::Two | Lifting::Trolley => 2,
        Lifting::Three => 3,
    }
}

impl Amounts {
    /// Those of a design's cabinet.
    pub(super) fn of(analysis: &Analysis, built: &BuiltCabinet, cutting: &Cutting) -> Amounts {
        let boards = &built.solids.boards;
        let many = |role: Role| boards.iter().filter(|b| b.role == role).count() as f64;
        let holes = boards.iter().flat_map(|b| &b.holes);
        Amounts {
            pieces: cutting.parts.iter().map(|p| f64::from(p.part.count)).sum(),
            settings: cutting.stocks.iter().map(|s| f64::from(s.layout.settings)).sum(),
            holes: holes.clone().filter(|h| !h.is_of_board() && h.name != "bore").count() as f64,
            screws: holes.map(|h| f64::from(h.screws)).sum(),
            boards: many(Role::Wall) + many(Role::Fold),
            braces: many(Role::Brace) + many(Role::Dowel),
            outside_m2: finish_m2(analysis),
            sheet_hands: if cutting.lifting.is_some() { hands(heaviest_sheet(&cutting.stocks)) } else { 1 },
            whole_hands: whole_kg(analysis).map_or(1, hands),
        }
    }
}

/// The work of a step.
#[derive(Clone, Debug, PartialEq)]
pub struct Labour {
    /// Working minutes.
    pub minutes: f64,
    /// How many hands' owners.
    pub hands: u32,
    /// What it is done with.
    pub tools: &'static [&'static str],
    /// What has to dry, set or run in after it.
    pub then: Option<Product>,
    /// Whether it can be laid down in the middle: sawing can, glueing and painting cannot.
    pub splits: bool,
    /// Joints that are spread with glue before the clamps close.
    pub joints: f64,
}

fn labour(minutes: f64, tools: &'static [&'static str]) -> Labour {
    Labour { minutes, hands: 1, tools, then: None, splits: true, joints: 0.0 }
}

impl Labour {
    fn with(mut self, product: Product) -> Labour {
        self.then = Some(product);
        self.splits = false;
        self
    }
    fn joints(mut self, many: f64) -> Labour {
        self.joints = many;
        self
    }
    fn hands(mut self, many: u32) -> Labour {
        self.hands = many;
        self
    }
}

/// The work of a step by its stable name.
pub(super) fn of(id: &str, a: &Amounts, analysis: &Analysis, days: &Days) -> Labour {
    let glue = products::glue(days.glue);
    let coat = products::coat(finishing::kind(analysis, days));
    match id {
        "measure_parts" => labour(20.0, &["callipers"]),
        "shop_cuts" => labour(45.0, &["tape measure", "way to carry boards"]).hands(a.sheet_hands),
        "cut" => {
            labour(20.0 + 3.0 * a.pieces + 4.0 * a.settings, &["saw with a fence", "push sticks", "square", "pencil"])
                .hands(a.sheet_hands)
        }
        "bevels" => labour(30.0, &["saw with a tilting blade", "bevel gauge"]),
        "rebates" => labour(30.0, &["router", "rebate bit"]),
        "mitres" => labour(45.0, &["saw with a tilting blade", "masking tape"]),
        "grooves" => labour(15.0 + 8.0 * a.braces, &["router", "straight bit", "guide rail"]),
        "windows" => labour(15.0 + 12.0 * a.braces, &["drill", "jigsaw"]),
        "laps" => labour(15.0 + 8.0 * a.braces, &["saw", "chisel"]),
        "layers" => labour(25.0, &["glue roller", "weights or clamps"]).with(glue).joints(2.0),
        "holes" => {
            labour(20.0 + 18.0 * a.holes, &["router", "circle jig", "straight bit", "jigsaw", "scrap for a test cut"])
        }
        "dry_fit" => labour(30.0, &["clamps", "square", "tape measure"]),
        "break_in" => labour(10.0, &["signal source", "amplifier"]).with(products::RUN_IN),
        "discs" => labour(25.0, &["glue", "weights"]).with(glue).joints(1.0),
        "fold_lines" => labour(30.0, &["straight edge", "square", "pencil"]),
        "fold_boards" => {
            labour(20.0 + 10.0 * a.boards, &["clamps", "square", "glue"]).with(glue).joints(2.0 * a.boards)
        }
        "carcass" => labour(25.0 + 5.0 * a.boards, &["clamps", "square", "glue", "wet cloth"])
            .with(glue)
            .joints(2.0 * a.boards - 2.0),
        "braces" => labour(5.0 + 6.0 * a.braces, &["clamps", "glue"]).with(glue).joints(2.0 * a.braces),
        "strips" => labour(35.0, &["glue", "pins"]).with(glue).joints(4.0),
        "bay" | "tunnel" => labour(40.0, &["clamps", "glue", "square"]).with(glue).joints(5.0),
        "woofer_board" => labour(20.0, &["clamps", "glue"]).with(glue).joints(4.0),
        "port" => labour(30.0, &["fine saw", "file"]),
        "paint_port" => labour(10.0, &["brush"]).with(products::PORT_PAINT),
        "seal_edges" => labour(25.0, &["brush", "lamp"]).with(products::SEALER),
        "fill" => labour(15.0, &["net or string", "gloves and mask"]),
        "close" => labour(25.0, &["clamps", "glue", "wet cloth"]).with(glue).joints(4.0),
        "lid" => labour(15.0 + 1.5 * a.screws, &["screwdriver", "gasket tape"]),
        "side_clamped" => labour(15.0, &["clamps", "foam tape"]),
        "round_over" => labour(20.0, &["router", "round-over bit"]),
        "fill_holes" => labour(15.0, &["filling knife", "filler"]).with(products::FILLER),
        "sand" => labour(20.0 + 45.0 * a.outside_m2, &["sander", "sandpaper", "block"]),
        "veneer" => labour(30.0 + 60.0 * a.outside_m2, &["roller", "sharp knife", "flush bit"]).with(products::CONTACT),
        "mask" => labour(15.0, &["masking tape"]),
        "seal_outside" => labour(10.0 + 10.0 * a.outside_m2, &["brush", "sandpaper 320"]).with(products::SEALER),
        "stain" => labour(10.0 + 15.0 * a.outside_m2, &["cloth", "gloves"]).with(products::STAIN),
        "feet" => labour(10.0, &["screwdriver", "drill"]),
        "drill" => labour(5.0 + 2.0 * a.screws, &["drill", "bits", "centre punch"]),
        "gaskets" => labour(10.0 + 2.0 * a.screws, &["screwdriver", "gasket tape"]),
        "wire" => labour(30.0, &["crimping tool", "soldering iron", "sleeving"]),
        "woofers_back" => labour(15.0 + 1.5 * a.screws, &["screwdriver"]),
        "leak_test" => labour(15.0, &["signal source", "amplifier", "damp cloth"]),
        "trim" => labour(40.0, &["measuring jig", "fine saw"]),
        "carry" => labour(10.0, &[]).hands(a.whole_hands),
        _ if id == "finish" || id.starts_with("coat_") => {
            labour(10.0 + 12.0 * a.outside_m2, &["roller, brush or cloth", "gloves", "tack cloth"]).with(coat)
        }
        _ => labour(15.0, &[]),
    }
}
