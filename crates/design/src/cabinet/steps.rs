//! Building it, step by step: the order for this very cabinet, with the cautions where the work is. What to do is common
//! practice; sizes and letters are the cabinet's own.

use super::cutting::{Cutting, cutting};
use super::materials::{ONE_LIFTS, bill, fill_grams, sheet_kg};
use super::seats::{Built, Kind, built};
use crate::analysis::Analysis;
use crate::document::Shape;
use oak_drum_cabinet::board::{Opening, Role};
use oak_drum_cabinet::carcass::{Housing, Joint};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "BuildStep")]
pub struct Step {
    /// Stable name.
    pub id: String,
    /// The part of the work it belongs to.
    pub stage: String,
    /// What, in a few words.
    pub title: String,
    /// How.
    pub text: String,
    /// The caution that belongs here.
    pub caution: Option<String>,
    /// Whether it is done.
    pub done: bool,
    /// What the builder noted.
    pub note: String,
}

const SAW: &str = "Saw: guard and riving knife on, push sticks, eyes and ears protected, nobody reaches over the blade. Dust drawn off; MDF dust wants a mask.";
const ROUTER: &str =
    "Router: both hands, work clamped, against the cutter's turn, eyes and ears protected, mask against dust.";
const SOLVENT: &str =
    "Solvents and finishes: open windows, no flame, oily rags spread out to dry or under water. Follow the tin.";
const MAINS: &str = "An amplifier carries mains: closed and unplugged while you work on it. Local electrical codes apply; fixed wiring is for a licensed electrician. Lithium batteries are charged outdoors.";
const LOUD: &str = "Ears: 85 dBA for eight hours is the recommended limit (NIOSH), 3 dB more halves the time; beside the box it is far louder. Mind the neighbours.";

/// A number of millimetres as at the saw.
fn mm(value: f64) -> String {
    let rounded = (value * 10.0).round() / 10.0;
    format!("{rounded} mm")
}

/// The steps for a design's cabinet, with what is done; `None` without one.
pub fn steps(analysis: &Analysis) -> Option<Vec<Step>> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let (built, cutting, bill) = (built(analysis)?, cutting(analysis)?, bill(analysis)?);
    let letters = Letters { cutting: &cutting, built: &built };
    let mut list: Vec<Step> = Vec::new();
    let mut add = |stage: &str, id: &str, title: String, text: String, caution: Option<String>| {
        list.push(Step { id: id.into(), stage: stage.into(), title, text, caution, done: false, note: String::new() });
    };
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let folded = analysis.fold.as_ref().and_then(|f| f.as_ref().ok());
    let saw = &cabinet.saw;
    let boards = &built.solids.boards;
    let is = |role: Role| boards.iter().any(|b| b.role == role);

    add(
        "Before the saw",
        "measure_parts",
        "Measure what you bought".into(),
        format!(
            "Boards with callipers: the drawing counts on {} for the walls and {} for the baffle; plywood is often a little under its name. The woofer's cut-out, depth and magnet, the port's tube, the amplifier's back. Put in what differs, and print again.",
            mm(cabinet.panel_mm),
            mm(cabinet.baffle_mm)
        ),
        None,
    );
    let heavy = sheet_kg(&cutting, analysis);
    if let Some(shop) = cutting.stocks.first().and_then(|s| s.shop) {
        let sheets: u32 = cutting.stocks.iter().map(|s| s.sheets).sum();
        add(
            "Before the saw",
            "shop_cuts",
            "First cuts at the shop".into(),
            format!(
                "Have {sheets} {} cut into {} pieces of {} x {} each. They are cut to their sizes at home.",
                if sheets == 1 { "sheet" } else { "sheets" },
                shop.along * shop.across,
                mm(shop.length_mm),
                mm(shop.width_mm)
            ),
            (heavy > ONE_LIFTS).then(|| format!("A whole sheet weighs about {heavy:.0} kg: two people carry it.")),
        );
    }
    let pieces: u32 = cutting.parts.iter().map(|p| p.part.count).sum();
    let settings: u32 = cutting.stocks.iter().map(|s| s.layout.settings).sum();
    add(
        "At the saw",
        "cut",
        format!("Cut {pieces} pieces"),
        format!(
            "After the sheet drawings, cut by cut; {settings} settings of the fence in all, so cut everything of one setting before it is moved. Write its letter on every piece as it comes off the saw.{}",
            if saw.oversize_mm > 0.0 {
                format!(" Pieces are {} larger than finished; trim them square next.", mm(saw.oversize_mm))
            } else {
                String::new()
            }
        ),
        Some(if heavy > ONE_LIFTS && saw.carried.is_none() {
            format!("{SAW} A whole sheet weighs about {heavy:.0} kg: two people handle it.")
        } else {
            SAW.into()
        }),
    );
    let bevelled: Vec<String> = cutting
        .parts
        .iter()
        .filter(|p| p.part.edges.contains("degrees") && !p.part.edges.contains("45 degrees"))
        .map(|p| p.part.label.clone())
        .collect();
    if !bevelled.is_empty() {
        add("At the saw", "bevels", format!("Bevel the ends of {}", words(&bevelled)),
            "Tilt the blade to the angle in the cut list; the sizes there are those of the longer face. Try the angle on scrap.".into(), Some(SAW.into()));
    }
    match saw.joint {
        Joint::Rebate if !tube => add("At the saw", "rebates", "Saw the rebates".into(), format!(
            "Along both ends of the boards that run through: {} wide, {} deep. Try the first on scrap with an end of the other board.",
            mm(cabinet.panel_mm), mm(cabinet.panel_mm / 2.0)
        ), Some(ROUTER.into())),
        Joint::Mitre if !tube => add("At the saw", "mitres", "Mitre floor, top and sides".into(),
            "Both ends at 45 degrees, four pieces with one setting. Tape the outer faces edge to edge and fold the carcass up to try it.".into(), Some(SAW.into())),
        _ => {}
    }
    if saw.housing == Housing::Dado && (is(Role::Brace) || is(Role::Fold)) {
        add(
            "At the saw",
            "grooves",
            "Rout the grooves".into(),
            format!(
                "{} deep where boards stand in the walls; mark both sides together so that they face each other.",
                mm((cabinet.panel_mm / 3.0).round())
            ),
            Some(ROUTER.into()),
        );
    }
    if boards.iter().any(|b| b.role == Role::Brace && b.holes.iter().any(|h| h.name == "window")) {
        add(
            "At the saw",
            "windows",
            "Saw the windows in the braces".into(),
            "Drill the corners first, then saw from hole to hole. Break the edges: air rubs on sharp ones.".into(),
            Some(SAW.into()),
        );
    }
    let holes: Vec<String> = boards
        .iter()
        .flat_map(|b| {
            b.holes.iter().filter(|h| h.name != "window" && h.name != "bore" && h.name != "mouth").map(move |h| (b, h))
        })
        .map(|(b, h)| {
            let size = match h.opening {
                Opening::Round { diameter_mm } => format!("{} across", mm(diameter_mm)),
                Opening::Rectangle { length_mm, width_mm } => format!("{} x {}", mm(width_mm), mm(length_mm)),
            };
            format!("{} in {} ({}): {size}", h.name, letters.of(&b.name), b.name.to_lowercase())
        })
        .collect();
    if !holes.is_empty() {
        add(
            "At the saw",
            "holes",
            "Cut the holes".into(),
            format!(
                "{}. They are {} larger than what goes in. Print the templates at 1:1, check their ruler, make a test cut in scrap and try the part in it: a hole a hair too small will not seal.",
                holes.join("; "),
                mm(saw.fit_mm)
            ),
            Some(ROUTER.into()),
        );
    }
    if cabinet.baffle_layers > 1 || cabinet.inner_layer.is_some() {
        add("Dry", "layers", "Glue the layers up".into(),
            "Glue over the whole face, screws from the inside or weights on top, a day to dry. Cut the holes through both once they are one.".into(), None);
    }
    add(
        "Dry",
        "dry_fit",
        "Put it together dry".into(),
        if tube {
            "Discs into or onto the tube, woofer and port in their holes. Everything must go in without force.".into()
        } else {
            "Clamps, no glue. Both diagonals of the back equal, no gap a sheet of paper goes into, woofer, port and amplifier in their holes. Only then glue.".into()
        },
        None,
    );
    if tube {
        add("Glue", "discs", "Fix the discs".into(), "The lower one first, sealed all around from inside; the upper one comes last, with a gasket and screws if you want to get in again.".into(), None);
    } else if let Some(folded) = folded {
        let names: Vec<String> = folded.fold.boards.iter().map(|(n, _)| letters.of(n)).collect();
        add(
            "Glue",
            "fold_lines",
            "Draw the fold on both sides".into(),
            format!(
                "From the fold section: the lines of {} on the inner faces of both sides, mirrored. Lay one on the other to check.",
                words(&names)
            ),
            None,
        );
        add(
            "Glue",
            "fold_boards",
            "Boards of the fold onto one side".into(),
            format!(
                "Lay the left side flat, glue {} upright on their lines, then floor, top and back around them. A square keeps them upright; seal every joint from inside.",
                words(&names)
            ),
            None,
        );
        add("Glue", "side_clamped", "Clamp the second side, without glue".into(),
            "Dry, on a strip of foam tape, so that fill can still be changed: with a path, stuffing is decided by ear and by measuring before the side is glued.".into(), None);
    } else {
        add("Glue", "carcass", "Glue floor, sides, top and back".into(),
            "Back face down on the bench: floor and one side first, then braces, the other side, the top. The baffle stays off: the inside stays reachable to the end. Wipe off what is squeezed out, run a fillet of glue along every inside corner.".into(), None);
        if is(Role::Brace) || is(Role::Dowel) {
            add("Glue", "braces", "Glue the braces in".into(),
                "They go in with the carcass, not after it: a brace that is pressed in pushes the walls apart. Glue all around.".into(), None);
        }
        if is(Role::Strip) {
            add("Glue", "strips", "Strips into the corners".into(),
                "Glue on both faces, pins until it holds. They seal the joint and give the baffle's screws something to bite.".into(), None);
        }
    }
    if is(Role::Bay) {
        add(
            "Glue",
            "bay",
            "The amplifier's own chamber".into(),
            "Glue its boards to each other and to the back, airtight; the leads go through a gland or a sealed hole."
                .into(),
            Some(MAINS.into()),
        );
    }
    if is(Role::Fold) && folded.is_none() {
        add(
            "Glue",
            "woofer_board",
            "The board between the chambers".into(),
            "Glued all around, airtight; the woofer is reached through a panel that stays screwed on a gasket.".into(),
            None,
        );
    }
    let ports: Vec<_> = built.seats.iter().filter(|s| s.kind == Kind::Port).collect();
    if !ports.is_empty() {
        let slot = boards.iter().any(|b| b.role == Role::Port);
        add(
            "Before closing",
            "port",
            if slot { "Build the port".into() } else { "Fit the port".into() },
            if slot {
                let length = analysis.wired.ports.first().map_or(0.0, |p| p.realised.length * 1e3);
                format!(
                    "Boards of the slot glued straight and parallel, {} long through the baffle. Its last board stays dry: the tuning is trimmed with it.",
                    mm(length)
                )
            } else {
                let length = analysis.wired.ports.first().map_or(0.0, |p| p.realised.length * 1e3);
                format!(
                    "Cut the tube to {}, or a little longer to trim; not glued yet. Its inner end stays clear of walls and fill.",
                    mm(length)
                )
            },
            None,
        );
        add("Before closing", "paint_port", "Paint inside the port".into(),
            "Matt black, the first hand's breadth and what shows behind it, before the box is closed: later no brush gets there.".into(), Some(SOLVENT.into()));
    }
    add("Before closing", "seal_edges", "Seal raw edges and joints".into(),
        "Thinned glue or sealer on every raw edge inside, twice on MDF. Hold a lamp inside in the dark: light that comes out is a leak.".into(), Some(SOLVENT.into()));
    let grams = fill_grams(analysis);
    let filled = analysis.wired.chambers.iter().any(|c| c.filled > 0.0);
    if grams > 0.0 || filled {
        add(
            "Before closing",
            "fill",
            "Put the fill in".into(),
            if grams > 0.0 {
                format!(
                    "{grams:.0} g, teased apart, held by a net or strings so that it stays out of the woofer and away from the port's end."
                )
            } else {
                "As planned at Quiet, teased apart, away from the port's end and the woofer's vent.".into()
            },
            Some("Mineral wool itches and its dust is not for lungs: mask, gloves, long sleeves.".into()),
        );
    }
    if !tube {
        add(
            "Before closing",
            "close",
            if folded.is_some() { "Glue the second side".into() } else { "Baffle on".into() },
            if folded.is_some() {
                "Only when the measured impedance shows the tuning you want. Glue, screws, clamps from the middle outward.".into()
            } else {
                "Dry fit once more, glue, clamps from the middle outward. Look in through the woofer's hole and run a finger along the joint.".into()
            },
            None,
        );
    }
    if let Some(radius) = cabinet.round_over_mm {
        add(
            "Outside",
            "round_over",
            format!("Round the edges over, {}", mm(radius)),
            "After the glue is hard, in two passes; set nails and screws deep enough before.".into(),
            Some(ROUTER.into()),
        );
    }
    add(
        "Outside",
        "finish",
        match cabinet.veneer_mm {
            Some(t) => format!("Veneer, {}", mm(t)),
            None => "Sand and finish".into(),
        },
        format!(
            "{:.1} m2 of outside. Fill, sand to 180, {}. Mask the holes' rims: the gaskets want bare, flat wood.",
            super::materials::finish_m2(analysis),
            if cabinet.veneer_mm.is_some() { "veneer, trim, oil or lacquer" } else { "prime, sand, two thin coats" }
        ),
        Some(SOLVENT.into()),
    );
    if let Some(feet) = cabinet.feet_mm {
        add(
            "Outside",
            "feet",
            format!("Feet, {}", mm(feet)),
            "Four, near the corners, screwed into the floor's full thickness.".into(),
            None,
        );
    }
    add(
        "Put in",
        "drill",
        "Drill for the screws".into(),
        {
            let screws: u32 = boards.iter().flat_map(|b| &b.holes).map(|h| h.screws).sum();
            format!(
                "{screws} screw holes after the templates, as deep as the screws less a thread, before anything is set in; threads or driven nuts hold better than chipboard screws."
            )
        },
        Some("Chips: eyes protected. Cover the woofer's cone while you drill near it.".into()),
    );
    add("Put in", "gaskets", "Gaskets, then tighten crosswise".into(),
        "Foam tape under the woofer's frame, the amplifier and the port's flange, its ends meeting in a slant. Screws by hand, each opposite the last, twice around.".into(), None);
    add(
        "Put in",
        "wire",
        "Wire it".into(),
        format!(
            "{}. Plus to plus on every woofer; a leaking cable hole is sealed with glue.",
            crate::arrangement::wiring_in_words(
                analysis.design.array.count,
                analysis.woofer.coils,
                analysis.design.array.coils,
                analysis.design.array.woofers_in_series
            )
        ),
        Some(MAINS.into()),
    );
    let low = analysis.wired.unloads_below.map_or_else(|| analysis.lowest_note(), |f| f * 1.2);
    add(
        "Prove it",
        "leak_test",
        "Listen for leaks".into(),
        format!(
            "A quiet tone near {low:.0} Hz at a stroke of a few millimetres: a leak sounds like paper flapping. Feel along the joints with a damp hand; everything but the port is airtight."
        ),
        Some(match analysis.wired.unloads_below {
            Some(f) => format!("{LOUD} Below {f:.0} Hz nothing holds the cone: keep test tones above it, or quiet."),
            None => LOUD.into(),
        }),
    );
    if !ports.is_empty() || folded.is_some() {
        let tuning = analysis.wired.figures.iter().find(|f| f.id == "fb_hz");
        let text = match tuning {
            Some(f) => format!(
                "The dip of the impedance between its two peaks is the tuning; it is to be {:.1} Hz. A built box usually lands a little below. Trim, measure again, and only then glue.",
                f.value
            ),
            None => "Hold the measured impedance against the curve here: peaks too high or too low tell of a leak, a wrong length or too much fill. Only then glue.".into(),
        };
        add("Prove it", "trim", "Measure, trim, glue".into(), text, Some(LOUD.into()));
    }
    add(
        "Prove it",
        "carry",
        "Carry it to its place".into(),
        bill.lifting.clone(),
        (bill.weight_kg > ONE_LIFTS).then(|| "Over 25 kg: two people, straight backs, the way cleared first.".into()),
    );
    for step in &mut list {
        if let Some(tick) = analysis.design.steps.iter().find(|t| t.step == step.id) {
            step.done = tick.done;
            step.note.clone_from(&tick.note);
        }
        // the first letter of what was put together from smaller words
        step.text = crate::findings::capital(&step.text);
    }
    Some(list)
}

struct Letters<'a> {
    cutting: &'a Cutting,
    built: &'a Built,
}

impl Letters<'_> {
    /// The letter of a board in the cut list, by its name.
    fn of(&self, name: &str) -> String {
        let Some(i) = self.built.solids.boards.iter().position(|b| b.name == name) else { return name.to_owned() };
        let part = self.cutting.parts.iter().find(|p| p.part.boards.contains(&(i as u32)));
        part.map_or_else(|| name.to_owned(), |p| p.part.label.clone())
    }
}

/// A, B and C.
fn words(list: &[String]) -> String {
    let mut list = list.to_vec();
    list.dedup();
    match list.as_slice() {
        [] => String::new(),
        [one] => one.clone(),
        [rest @ .., last] => format!("{} and {last}", rest.join(", ")),
    }
}
