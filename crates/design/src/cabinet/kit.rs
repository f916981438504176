//! What the work is done with: tools by step, clamps by number and length, bits, the settings of the circle jig, drills; and which of it
//! the workshop has.
//!
//! Clamps: in each direction something is glued, at both ends of the joint and at least every 300 mm along it, opening 100 mm more than
//! what they go around (common practice: a cabinet of 60 cm wants at least eight, four near 90 cm and four near 60 cm).

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::cutting::cutting;
use crate::cabinet::fasteners::{Bites, Fastening, fasteners};
use crate::cabinet::leads::{Leads, leads};
use crate::cabinet::step::Letters;
use crate::cabinet::steps::steps_with;
use oak_drum_cabinet::board::{Opening, Role};
use oak_drum_cabinet::carcass::{Housing, Joint, Through};
use oak_drum_document::{Cabinet, Days, Owned, Shape};
use oak_drum_text::{Text, drill, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What the work is done with.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Kit {
    /// Tools, clamps, bits and drills.
    pub things: Vec<Thing>,
    /// Round holes and how the router's jig is set for them.
    pub circles: Vec<Circle>,
    /// Screws by size.
    pub screws: Vec<Fastening>,
    /// Wires inside; absent without woofers.
    pub leads: Option<Leads>,
}

/// A kind of tool.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "ToolKind")]
pub enum Sort {
    /// A tool.
    Tool,
    /// Clamps.
    Clamp,
    /// A router bit.
    Bit,
    /// A drill.
    Drill,
}

/// A tool, or so many of a kind.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "Tool")]
pub struct Thing {
    /// Stable name of the kind; with the size what the workshop's own list is asked for.
    pub thing: String,
    /// What sort it is.
    pub sort: Sort,
    /// What it is.
    pub what: Text,
    /// What it is for.
    pub why: Text,
    /// Its size: what a clamp opens to at least, the diameter of a bit, mm.
    pub size_mm: Option<f64>,
    /// How many.
    pub many: u32,
    /// How many of them the workshop has.
    pub has: u32,
}

/// A round hole and the jig's settings for it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Circle {
    /// Whose hole it is, and in which board.
    pub what: Text,
    /// Its diameter, mm.
    pub diameter_mm: f64,
    /// How deep, mm.
    pub depth_mm: f64,
    /// From the pivot to the middle of the bit, mm; absent where a hole saw cuts it.
    pub radius_mm: Option<f64>,
    /// Diameter of the bit or of the hole saw, mm.
    pub bit_mm: f64,
}

/// Clamps stand no farther apart, mm (common practice).
const CLAMP_EVERY: f64 = 300.0;
/// What a clamp opens to beyond what it goes around: jaws and scraps between, mm (common practice).
const CLAMP_MORE: f64 = 100.0;
/// Holes up to this are cut with a hole saw or a flat bit, mm (common practice).
const HOLE_SAW: f64 = 60.0;

/// A number of clamps along a joint.
fn along_joint(length: f64) -> u32 {
    ((length / CLAMP_EVERY).ceil() as u32).max(1)
}

/// Clamps for a cabinet: what for, how many, what they open to. None where nothing is clamped: a tube's discs are weighed down.
pub fn clamps(cabinet: &Cabinet, mitred: bool) -> Vec<(&'static str, u32, f64)> {
    if matches!(cabinet.shape, Shape::Tube { .. }) {
        return Vec::new();
    }
    let (w, h, d) = (cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm);
    let front = ("front to back: baffle and back onto the walls", 2 * along_joint(w.max(h)), d + CLAMP_MORE);
    if mitred {
        // four corners at once: both ways
        return vec![
            ("across the mitred corners", 2 * along_joint(d), w + CLAMP_MORE),
            ("up and down the mitred corners", 2 * along_joint(d), h + CLAMP_MORE),
            front,
        ];
    }
    let (words, over) = match cabinet.saw.through {
        Through::FloorAndTop => ("up and down: floor and top onto the sides", h),
        Through::Sides => ("across: the sides onto floor and top", w),
    };
    vec![(words, 2 * along_joint(d), over + CLAMP_MORE), front]
}

/// The bit the jig's settings are told for: the straight bit that goes through the board at its depth, mm (common practice).
fn straight_bit(thickness: f64) -> f64 {
    if thickness <= 25.0 { 8.0 } else { 12.0 }
}

/// What the work on a design's cabinet is done with; `None` without one. Of what the workshop has the longest clamps go to the longest
/// needs.
pub fn kit(analysis: &Analysis, days: &Days, has: &[Owned]) -> Option<Kit> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let built = built(analysis)?;
    let cut = cutting(analysis)?;
    let letters = Letters { cutting: &cut, built: &built };
    let circles = circles(&built, &letters);
    let screws = fasteners(analysis, &built);
    let mut things = tools(analysis, days)?;
    let mitred = cabinet.saw.joint == Joint::Mitre;
    for (why, many, opens) in clamps(cabinet, mitred) {
        let opens = (opens / 10.0).ceil() * 10.0;
        things.push(Thing {
            thing: "clamp".into(),
            sort: Sort::Clamp,
            what: format!("{many} clamps that open to {:.0}", mm(opens)).into(),
            why: why.into(),
            size_mm: Some(opens),
            many,
            has: 0,
        });
    }
    things.extend(bits(cabinet, &built, &circles));
    things.extend(drills(&screws));
    own(&mut things, has);
    Some(Kit { things, circles, screws, leads: leads(analysis, &built) })
}

/// The tools of all steps, each once, with the steps it is for; consumables are on the shopping list.
fn tools(analysis: &Analysis, days: &Days) -> Option<Vec<Thing>> {
    const ELSEWHERE: [&str; 3] = ["clamps", "clamps, or weights", "bits"];
    let mut list: Vec<Thing> = Vec::new();
    for step in steps_with(analysis, days)? {
        for tool in step.tools.iter().filter(|t| !ELSEWHERE.contains(&t.as_str()) && !t.ends_with(" bit")) {
            match list.iter_mut().find(|t| t.thing == *tool) {
                Some(known) => {
                    known.why.add("; ");
                    known.why.add(step.title.clone());
                }
                None => list.push(Thing {
                    thing: tool.clone(),
                    sort: Sort::Tool,
                    what: tool.as_str().into(),
                    why: step.title.clone(),
                    size_mm: None,
                    many: 1,
                    has: 0,
                }),
            }
        }
    }
    Some(list)
}

fn bit(thing: &str, what: Text, why: &str, size_mm: f64) -> Thing {
    Thing { thing: thing.into(), sort: Sort::Bit, what, why: why.into(), size_mm: Some(size_mm), many: 1, has: 0 }
}

/// Router bits by size.
fn bits(cabinet: &Cabinet, built: &BuiltCabinet, circles: &[Circle]) -> Vec<Thing> {
    let mut list = Vec::new();
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let routed: Vec<f64> = circles.iter().filter(|c| c.radius_mm.is_some()).map(|c| c.bit_mm).collect();
    for size in [8.0, 12.0].into_iter().filter(|b| routed.contains(b)) {
        let of_it = circles.iter().filter(|c| c.radius_mm.is_some() && c.bit_mm == size);
        let deepest = of_it.map(|c| c.depth_mm).fold(0.0, f64::max);
        let what = format!("straight bit, {}, cutting {:.0} or more", drill(size), mm(deepest));
        list.push(bit(
            "straight_bit",
            what.into(),
            "holes and recesses with the circle jig, in passes no deeper than the bit is thick",
            size,
        ));
    }
    if cabinet.saw.joint == Joint::Rebate && !tube {
        let deep = cabinet.panel_mm / 2.0;
        let what = format!(
            "rebate bit or straight bit for rebates {:.1} wide and {deep:.1} deep",
            mm(cabinet.panel_mm),
            deep = mm(deep)
        );
        list.push(bit("rebate_bit", what.into(), "the rebates", cabinet.panel_mm));
    }
    let mut inner: Vec<f64> = built
        .solids
        .boards
        .iter()
        .filter(|b| cabinet.saw.housing == Housing::Dado && matches!(b.role, Role::Brace | Role::Fold))
        .map(|b| b.thickness_mm)
        .collect();
    inner.sort_by(f64::total_cmp);
    inner.dedup_by(|a, b| (*a - *b).abs() < 0.05);
    for size in inner {
        let what = format!("straight bit, {} or thinner in two passes", drill(size));
        list.push(bit("straight_bit", what.into(), "the grooves", size));
    }
    if let Some(radius) = cabinet.round_over_mm {
        let what = format!("round-over bit with a bearing, {:.0} radius", mm(radius));
        list.push(bit("round_over_bit", what.into(), "outer edges", radius));
    }
    if cabinet.veneer_mm.is_some() {
        list.push(Thing {
            size_mm: None,
            ..bit("flush_bit", "flush bit with a bearing".into(), "edges of the veneer", 0.0)
        });
    }
    list
}

/// Round holes through boards and the recesses around them. What stays is outside the cut, so the bit's middle runs half a bit within.
fn circles(built: &BuiltCabinet, letters: &Letters<'_>) -> Vec<Circle> {
    let mut list: Vec<Circle> = Vec::new();
    for board in &built.solids.boards {
        for hole in board.holes.iter().filter(|h| !h.is_of_board() && h.name != "bore") {
            let Opening::Round { diameter_mm } = hole.opening else { continue };
            let bit = straight_bit(board.thickness_mm);
            let name = format!("{} in {}", hole.name, letters.of(&board.name));
            let mut add = |what: String, diameter: f64, depth: f64| {
                let sawn = diameter <= HOLE_SAW;
                list.push(Circle {
                    what: what.into(),
                    diameter_mm: diameter,
                    depth_mm: depth,
                    radius_mm: (!sawn).then_some((diameter - bit) / 2.0),
                    bit_mm: if sawn { diameter } else { bit },
                });
            };
            if let Some(recess) = hole.recess {
                add(format!("{name}, first its recess"), recess.diameter_mm, recess.depth_mm);
            }
            add(name.clone(), diameter_mm, board.thickness_mm);
        }
    }
    list
}

/// Drills, each once, with the screws they are for.
fn drills(screws: &[Fastening]) -> Vec<Thing> {
    let mut list: Vec<Thing> = Vec::new();
    for screw in screws {
        let of = |bites: Bites| if bites == Bites::Wood { "lead holes" } else { "driven nuts" };
        let both = [(Some(screw.drill_mm), of(screw.bites)), (screw.clearance_mm, "clearance holes")];
        for (size, words) in both.into_iter().filter_map(|(size, words)| Some((size?, words))) {
            let mut why = Text::from(format!("{words} of {}: ", screw.size()));
            why.add(screw.what.clone());
            match list.iter_mut().find(|t| t.size_mm == Some(size)) {
                Some(known) => {
                    known.why.add("; ");
                    known.why.add(why);
                }
                None => list.push(Thing {
                    thing: "drill_bit".into(),
                    sort: Sort::Drill,
                    what: format!("drill, {}", drill(size)).into(),
                    why,
                    size_mm: Some(size),
                    many: 1,
                    has: 0,
                }),
            }
        }
    }
    list.sort_by(|a, b| a.size_mm.unwrap_or(0.0).total_cmp(&b.size_mm.unwrap_or(0.0)));
    list
}

/// Fills in what the workshop has. A clamp does for every shorter need, but for one of them only; a bit for its own size.
fn own(things: &mut [Thing], has: &[Owned]) {
    let mut clamps: Vec<f64> = has
        .iter()
        .filter(|o| o.thing == "clamp")
        .flat_map(|o| std::iter::repeat_n(o.size_mm.unwrap_or(0.0), o.many as usize))
        .collect();
    clamps.sort_by(f64::total_cmp);
    let mut order: Vec<usize> = (0..things.len()).filter(|i| things[*i].sort == Sort::Clamp).collect();
    order.sort_by(|a, b| things[*b].size_mm.unwrap_or(0.0).total_cmp(&things[*a].size_mm.unwrap_or(0.0)));
    for i in order {
        let need = things[i].size_mm.unwrap_or(0.0);
        while things[i].has < things[i].many && clamps.last().is_some_and(|c| *c >= need - 0.5) {
            clamps.pop();
            things[i].has += 1;
        }
    }
    for thing in things.iter_mut().filter(|t| t.sort != Sort::Clamp) {
        let same = |o: &&Owned| {
            o.thing == thing.thing
                && match (o.size_mm, thing.size_mm) {
                    (Some(a), Some(b)) => (a - b).abs() < 0.05,
                    (None, None) => true,
                    _ => false,
                }
        };
        thing.has = has.iter().filter(same).map(|o| o.many).sum::<u32>().min(thing.many);
    }
}
