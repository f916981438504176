//! Screws by size, and the holes that are drilled for them.
//!
//! A screw through a frame is as thick as the frame's hole lets through and as long as frame, gasket and board are together, so that it
//! does not come out inside; where a board leaves it too little to bite on, a machine screw goes into a driven nut. A screw through a
//! board into another's edge is a quarter of that edge thick and two and a half times the board long (common practice). Holes in the wood
//! are drilled to a share of the screw's root: 70 per cent in softwood, 90 in hardwood, the root two thirds of the shank (Forest Products
//! Laboratory, Wood Handbook, chapter 8, "Fastenings"; from memory); in the edges of fibre and particle board, which split, the whole
//! root and the next larger drill (common practice).

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::mounted_part::Kind;
use oak_drum_acoustics::panels::BoardMaterial;
use oak_drum_cabinet::board::{Board, Hole, Role};
use oak_drum_document::Cabinet;
use oak_drum_text::{Quantity, Text, bolt, drill, mm, screw};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a screw goes into.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Bites {
    /// The wood itself.
    Wood,
    /// A driven nut, or a nut and washer, behind the board.
    DrivenNut,
}

/// Screws of one kind.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Fastening {
    /// Stable name; the line of the shopping list bears the same.
    pub id: String,
    /// What they hold.
    pub what: Text,
    /// How many.
    pub count: u32,
    /// What they go into.
    pub bites: Bites,
    /// Diameter, mm.
    pub diameter_mm: f64,
    /// Length under the head, mm.
    pub length_mm: f64,
    /// How much of it stands in the wood, mm; in front of a driven nut the wood it passes.
    pub bite_mm: f64,
    /// Diameter of its head, mm.
    pub head_mm: f64,
    /// Diameter of the washer it wants, since its head would go through the frame's hole, mm.
    pub washer_mm: Option<f64>,
    /// Drill for the hole it bites in, of a driven nut the nut's barrel, mm.
    pub drill_mm: f64,
    /// Drill for the hole it passes freely, through the board that is pulled on, mm.
    pub clearance_mm: Option<f64>,
    /// Whether its size hangs on something no sheet states.
    pub estimated: bool,
    /// All of it in a sentence.
    pub said: Text,
}

/// Wood screws as they are sold, mm.
const DIAMETERS: [f64; 6] = [3.0, 3.5, 4.0, 4.5, 5.0, 6.0];
/// Their lengths, mm.
const LENGTHS: [f64; 15] = [12.0, 16.0, 20.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 60.0, 70.0, 80.0, 90.0, 100.0, 120.0];
/// Machine screws with driven nuts: diameter, the nut's barrel, a large washer (ISO 7093), mm; barrels are as usual in the trade.
const NUTS: [(f64, f64, f64); 4] = [(4.0, 5.5, 12.0), (5.0, 6.5, 15.0), (6.0, 8.0, 18.0), (8.0, 10.0, 24.0)];
/// A gasket, pressed, mm (common practice).
const GASKET: f64 = 2.0;
/// A screw is held by so many of its diameters of wood; less wants a driven nut (common practice).
const LEAST_BITE: f64 = 3.0;
/// A screw is so much thinner than the hole of a frame it goes through, mm.
const PLAY: f64 = 0.3;
/// A head is so much larger than the hole it lies on, mm (common practice).
const SHOULDER: f64 = 2.0;
/// Distance of screws along a glued joint where there are any, mm (common practice).
const SCREW_EVERY: f64 = 150.0;

/// The hole of a frame's screws as is usual for its size, mm (common practice).
fn usual_hole(frame: f64) -> f64 {
    match frame {
        f if f < 120.0 => 4.2,
        f if f < 240.0 => 4.8,
        f if f < 360.0 => 5.5,
        _ => 6.5,
    }
}

/// The largest of some sizes that is no more than this; the smallest where all are.
fn largest(of: &[f64], most: f64) -> f64 {
    of.iter().copied().filter(|d| *d <= most + 1e-9).fold(of[0], f64::max)
}

/// What a board lets a screw bite on: the share of its root that is drilled, and whether the drill is the next larger one.
fn lead(board: BoardMaterial) -> (f64, bool) {
    match board {
        BoardMaterial::Mdf | BoardMaterial::ParticleBoard => (1.0, true),
        BoardMaterial::BirchPlywood => (0.9, false),
        BoardMaterial::SoftwoodPlywood | BoardMaterial::Pine => (0.7, false),
        BoardMaterial::Pvc => (1.0, true),
    }
}

/// The drill for a screw's lead hole in a board, mm: in steps of half a millimetre.
pub fn lead_hole(diameter: f64, board: BoardMaterial) -> f64 {
    let (share, up) = lead(board);
    let halves = 2.0 * share * diameter * 2.0 / 3.0;
    if up { (halves - 0.05).ceil() / 2.0 } else { halves.round() / 2.0 }
}

/// What a frame, a flange or a cup is held with.
struct Frame {
    id: &'static str,
    what: &'static str,
    /// Thickness of the flange and diameter of the holes in it, mm, where stated.
    flange: Option<f64>,
    hole: Option<f64>,
}

fn frame_of(kind: Kind, analysis: &Analysis) -> Frame {
    let woofer = &analysis.design.woofer;
    let plain = |id, what| Frame { id, what, flange: None, hole: None };
    match kind {
        Kind::Woofer => Frame {
            id: "frame_screws",
            what: "the woofer's frame",
            flange: woofer.flange_mm,
            hole: woofer.screw_hole_mm,
        },
        Kind::Radiator => plain("radiator_screws", "the radiators' frames"),
        Kind::Port => plain("port_screws", "the port's flange"),
        Kind::Terminals => plain("terminal_screws", "the terminal cup"),
        Kind::Amplifier => plain("amplifier_screws", "the amplifier's plate"),
        Kind::Mouth => plain("mouth_screws", "the mouth"),
    }
}

/// Screws for a frame on a board.
fn through_frame(frame: &Frame, hole: &Hole, board: &Board, of: BoardMaterial) -> Fastening {
    let across = hole.frame_mm.unwrap_or(200.0);
    let flange = frame.flange.unwrap_or((0.02 * across).clamp(3.0, 8.0).round());
    let opening = frame.hole.unwrap_or_else(|| usual_hole(across));
    let estimated = frame.flange.is_none() || frame.hole.is_none();
    let wood = board.thickness_mm - hole.recess.map_or(0.0, |r| r.depth_mm);
    let diameter = largest(&DIAMETERS, opening - PLAY);
    let length = largest(&LENGTHS, flange + GASKET + wood);
    let bite = length - flange - GASKET;
    let washer = |head: f64, size: f64| (head < opening + SHOULDER).then_some(size);
    let what = frame.what;
    let (bites, diameter, length, bite, drilled, washer) = if bite >= LEAST_BITE * diameter {
        let washer = washer(2.0 * diameter, 2.0 * diameter + 4.0);
        (Bites::Wood, diameter, length, bite, lead_hole(diameter, of), washer)
    } else {
        let nut = NUTS.iter().rev().find(|n| n.0 <= opening - PLAY).unwrap_or(&NUTS[0]);
        let least = flange + GASKET + wood;
        let length = LENGTHS.iter().copied().find(|l| *l >= least).unwrap_or(LENGTHS[14]);
        (Bites::DrivenNut, nut.0, length, wood, nut.1, washer(2.0 * nut.0, nut.2))
    };
    let mut said = match bites {
        Bites::Wood => format!(
            "{} for {what}: through {flange:.0} of frame and {GASKET:.0} of gasket they bite {bite:.0} of {wood:.0}. Drill {} for them.",
            size(bites, diameter, length),
            drill(drilled),
            flange = mm(flange),
            GASKET = mm(GASKET),
            bite = mm(bite),
            wood = mm(wood),
        ),
        Bites::DrivenNut => format!(
            "{} into driven nuts for {what}: {wood:.0} of board is too little for a wood screw to bite on. Drill {} for the nuts, which go in from behind.",
            size(bites, diameter, length),
            drill(drilled),
            wood = mm(wood),
        ),
    };
    match washer {
        Some(washer) => said.push_str(&format!(
            " Washers, {:.0}: a head of {:.0} goes through a hole of {:.1}, or nearly.",
            mm(washer),
            mm(2.0 * diameter),
            mm(opening)
        )),
        None => said.push_str(&format!(
            " The head is {:.0} across, more than the frame's hole of {:.1}.",
            mm(2.0 * diameter),
            mm(opening)
        )),
    }
    if estimated {
        said.push_str(" How thick it is there or how wide its holes are is not stated: look before you buy.");
    }
    Fastening {
        id: frame.id.into(),
        what: frame.what.into(),
        count: hole.screws,
        bites,
        diameter_mm: diameter,
        length_mm: length,
        bite_mm: bite,
        head_mm: 2.0 * diameter,
        washer_mm: washer,
        drill_mm: drilled,
        clearance_mm: None,
        estimated,
        said: said.into(),
    }
}

/// Screws through a board into the edge of another.
fn into_edge(id: &str, what: &str, count: u32, through: f64, edge: f64, of: BoardMaterial) -> Fastening {
    let diameter = largest(&DIAMETERS[..5], 0.24 * edge);
    let least = 2.5 * through;
    let length = LENGTHS.iter().copied().min_by(|a, b| (a - least).abs().total_cmp(&(b - least).abs())).unwrap_or(45.0);
    let (drilled, clearance) = (lead_hole(diameter, of), diameter + 0.5);
    let bite = length - through;
    let said = format!(
        "{} for {what}: through {through:.0} they bite {bite:.0} of the other board's edge. Drill {} through the first and {} into the edge, as deep as the screw, and countersink.{}",
        size(Bites::Wood, diameter, length),
        drill(clearance),
        drill(drilled),
        if edge < 12.0 { " Edges this thin are better glued and pinned." } else { "" },
        through = mm(through),
        bite = mm(bite),
    );
    Fastening {
        id: id.into(),
        what: what.into(),
        count,
        bites: Bites::Wood,
        diameter_mm: diameter,
        length_mm: length,
        bite_mm: bite,
        head_mm: 2.0 * diameter,
        washer_mm: None,
        drill_mm: drilled,
        clearance_mm: Some(clearance),
        estimated: id == "joint_screws",
        said: said.into(),
    }
}

/// A screw's size in words.
fn size(bites: Bites, diameter: f64, length: f64) -> Quantity {
    match bites {
        Bites::Wood => screw([diameter, length]),
        Bites::DrivenNut => bolt([diameter, length]),
    }
}

impl Fastening {
    /// Its size in words.
    pub fn size(&self) -> Quantity {
        size(self.bites, self.diameter_mm, self.length_mm)
    }
}

/// What a board is of.
fn material(cabinet: &Cabinet, board: &Board) -> BoardMaterial {
    if board.role == Role::Baffle { cabinet.baffle_board.unwrap_or(cabinet.board) } else { cabinet.board }
}

/// The screws of a design's cabinet, kind by kind; none without one.
pub fn fasteners(analysis: &Analysis, built: &BuiltCabinet) -> Vec<Fastening> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    let mut list: Vec<Fastening> = Vec::new();
    for board in &built.solids.boards {
        for hole in board.holes.iter().filter(|h| h.screws > 0) {
            let Some(part) = built.mounted_parts.iter().find(|p| p.name == hole.name) else { continue };
            let made = through_frame(&frame_of(part.kind, analysis), hole, board, material(cabinet, board));
            // one bag for all that take the same
            let alike = |f: &&mut Fastening| {
                f.what == made.what
                    && (f.bites, f.diameter_mm, f.length_mm) == (made.bites, made.diameter_mm, made.length_mm)
            };
            match list.iter_mut().find(alike) {
                Some(known) => known.count += made.count,
                None => {
                    let more = list.iter().filter(|f| f.what == made.what).count();
                    let id = if more == 0 { made.id.clone() } else { format!("{}_{}", made.id, more + 1) };
                    list.push(Fastening { id, ..made });
                }
            }
        }
    }
    let edge = cabinet.panel_mm;
    let joints = (built.joints_mm() / SCREW_EVERY).ceil() as u32;
    let (what, of) = ("the joints, where they are not only glued", cabinet.board);
    list.push(into_edge("joint_screws", what, joints, edge, edge, of));
    let lids = built.solids.boards.iter().filter(|b| b.lid_screws > 0);
    let (count, through) = lids.fold((0, edge), |(n, _), b| (n + b.lid_screws, b.thickness_mm));
    if count > 0 {
        list.push(into_edge("lid_screws", "the panel that comes off", count, through, edge, of));
    }
    // how many there are is known once all holes were seen
    for screws in &mut list {
        let about = if screws.id == "joint_screws" { "about " } else { "" };
        let kind = if screws.bites == Bites::Wood { "screws" } else { "machine screws" };
        screws.said = oak_drum_text::capital(&format!("{about}{} {kind}, {}", screws.count, screws.said)).into();
    }
    list
}
