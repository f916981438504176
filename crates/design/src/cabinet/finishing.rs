//! The outside: filled, sanded, masked, veneered, sealed, stained, coated. Grits, coats and their order are common practice.

use crate::analysis::Analysis;
use crate::cabinet::materials::finish_m2;
use crate::cabinet::step::{ROUTER, SOLVENT, Step, mm};
use oak_drum_acoustics::panels::BoardMaterial;
use oak_drum_document::{Days, FinishKind};
use oak_drum_text::{Text, square_metres};

/// Dust of sanding.
const DUST: &str = "Dust of sanding, of MDF most of all: mask, extraction, a window; eyes protected.";

/// What the outside gets: as stated, else oil where there is veneer and rolled paint where there is none.
pub fn kind(analysis: &Analysis, days: &Days) -> FinishKind {
    let veneer = analysis.design.cabinet.as_ref().is_some_and(|c| c.veneer_mm.is_some());
    match days.finish {
        FinishKind::AsUsual if veneer => FinishKind::Oil,
        FinishKind::AsUsual => FinishKind::RolledPaint,
        stated => stated,
    }
}

/// How many coats.
pub fn coats(kind: FinishKind, days: &Days) -> u32 {
    let usual = match kind {
        FinishKind::AsUsual | FinishKind::RolledPaint => 3,
        FinishKind::Lacquer => 4,
        FinishKind::StainAndClear => 3,
        FinishKind::Oil | FinishKind::Textured => 2,
        FinishKind::Wrap => 1,
    };
    if kind == FinishKind::Wrap { 1 } else { days.coats.unwrap_or(usual) }
}

fn step(id: &str, title: impl Into<Text>, text: impl Into<Text>, caution: Option<&str>) -> Step {
    Step {
        id: id.into(),
        stage: "Outside".into(),
        title: title.into(),
        text: text.into(),
        caution: caution.map(Text::from),
        minutes: 0.0,
        hands: 1,
        tools: Vec::new(),
    }
}

/// The steps of the outside, in their order; the last coat is `finish`.
pub(super) fn steps(analysis: &Analysis, days: &Days) -> Vec<Step> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    let (kind, mut list) = (kind(analysis, days), Vec::new());
    let coats = coats(kind, days);
    let area = square_metres(finish_m2(analysis));
    if let Some(radius) = cabinet.round_over_mm {
        list.push(step(
            "round_over",
            format!("Round the edges over, {}", mm(radius)),
            "After the glue is hard, in two passes; set nails and screws deep enough before.",
            Some(ROUTER),
        ));
    }
    list.push(step(
        "fill_holes",
        "Fill what is open",
        "Screw holes, dents and seams, a little proud; what shrinks is filled once more. Then it dries.",
        None,
    ));
    let grits = match kind {
        _ if cabinet.veneer_mm.is_some() => "100, then 150: flat matters, not fine",
        FinishKind::Wrap => "100, 150, 180: film shows every grain that is left",
        FinishKind::Textured => "100, 150: the coat hides the rest",
        FinishKind::Oil | FinishKind::StainAndClear => "100, 150, 180, 220, the last along the grain by hand",
        FinishKind::AsUsual | FinishKind::RolledPaint | FinishKind::Lacquer => {
            "100, 150, 220, each until the marks of the last are gone"
        }
    };
    list.push(step("sand", "Sand the outside", format!("{area:.1} of outside. {grits}. Edges are only broken, not rounded by accident; the rims of the holes stay flat: the gaskets want that."), Some(DUST)));
    if let Some(thick) = cabinet.veneer_mm {
        list.push(step(
            "veneer",
            format!("Veneer, {}", mm(thick)),
            "Cut it larger all around. Contact glue on both faces, five to ten minutes until it tacks, from the middle outwards, rolled hard; trimmed with a sharp blade or a flush bit, corners filed. The sides first, then top and front.",
            Some(SOLVENT),
        ));
    }
    let port = if analysis.wired.ports.is_empty() { "" } else { " the inside of the port," };
    let bare = format!("Rims of all holes, the faces gaskets lie on,{port} threads and driven nuts.");
    list.push(step("mask", "Mask what stays bare", bare, None));
    let raw = matches!(cabinet.board, BoardMaterial::Mdf) && cabinet.veneer_mm.is_none();
    if raw && !matches!(kind, FinishKind::Textured | FinishKind::Oil) {
        list.push(step(
            "seal_outside",
            "Seal the raw edges outside",
            "Bare MDF drinks: shellac or thinned glue on every edge, 320 when it is dry, once more. Faces get one thin coat.",
            Some(SOLVENT),
        ));
    }
    if kind == FinishKind::StainAndClear {
        list.push(step(
            "stain",
            "Stain it",
            "Wet edge to wet edge, wiped off along the grain after a few minutes; try it on an offcut of the same board first. It dries a day, then 400 by hand.",
            Some(SOLVENT),
        ));
    }
    for i in 1..=coats {
        let id = if i == coats { "finish".to_owned() } else { format!("coat_{i}") };
        let between = if i > 1 { " Light sanding before it, 400 and finer, dust wiped off." } else { "" };
        let (title, text) = match kind {
            FinishKind::Wrap => ("Wrap it".to_owned(), "Contact glue on both or film of its own glue; one piece around front, sides and back, its seam at the back; holes cut out from inside the rim.".to_owned()),
            FinishKind::Oil => (format!("Oil, {i} of {coats}"), format!("Thin, with a cloth; what has not gone in after a quarter of an hour is wiped off.{between}")),
            FinishKind::Textured => (format!("Textured coat, {i} of {coats}"), "No primer. Sprayed at about 1.4 bar or rolled with its own roller; practise on scrap, wet edge to wet edge.".to_owned()),
            FinishKind::AsUsual | FinishKind::RolledPaint => (format!("Paint, {i} of {coats}"), format!("A short-napped roller, thin, wet edge to wet edge.{between}")),
            FinishKind::Lacquer | FinishKind::StainAndClear => (format!("Lacquer, {i} of {coats}"), format!("Thin and even, no dust in the air, lying flat if it can.{between}")),
        };
        list.push(step(&id, title, text, Some(SOLVENT)));
    }
    if let Some(feet) = cabinet.feet_mm {
        list.push(step(
            "feet",
            format!("Feet, {}", mm(feet)),
            "Four, near the corners, screwed into the floor's full thickness.",
            None,
        ));
    }
    list
}
