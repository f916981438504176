//! From the cabinet to what is sawn: cut list with inches and weights, sheets for each board.

use crate::document::{Brace, Cabinet, Design, Lies, Ties};
use oak_drum_acoustics::panels::Board;
use oak_drum_cabinet::carcass::{Carcass, Inner, Part};
use oak_drum_cabinet::inches::nearest;
use oak_drum_cabinet::sheets::{Layout, Piece, Sheet, layout};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The cut list and the sheets of a design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Cutting {
    /// The parts, the largest first.
    pub parts: Vec<CutPart>,
    /// The sheets, a stock for each board and thickness.
    pub stocks: Vec<Stock>,
    /// Boards and braces together, kg.
    pub weight_kg: f64,
    /// Air the boards leave, by the solids, L; woofer, port and strips are not off yet.
    pub air_l: f64,
}

/// A part of the cut list.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct CutPart {
    /// The part, finished.
    #[serde(flatten)]
    pub part: Part,
    /// What it is of.
    pub board: String,
    /// Length with the oversize, mm.
    pub rough_length_mm: f64,
    /// Width with the oversize, mm.
    pub rough_width_mm: f64,
    /// Length in inches.
    pub length_in: String,
    /// Width in inches.
    pub width_in: String,
    /// The larger of the two roundings, mm; longer is positive.
    pub rounding_mm: f64,
    /// One of them, kg.
    pub weight_kg: f64,
}

/// The sheets of one board and thickness.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Stock {
    /// What it is of.
    pub board: String,
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// Length of a sheet, mm.
    pub sheet_length_mm: f64,
    /// Width of a sheet, mm.
    pub sheet_width_mm: f64,
    /// What is trimmed off each edge, mm.
    pub trim_mm: f64,
    /// The layout.
    pub layout: Layout,
}

/// The cabinet as solids.
pub fn carcass(cabinet: &Cabinet) -> Carcass {
    let inside = cabinet.inside_mm();
    let inner = cabinet.braces.iter().flat_map(|brace| boards_of(brace, inside)).collect();
    Carcass {
        outside: [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm],
        panel: cabinet.panel_mm,
        baffle: cabinet.baffle_mm,
        joint: cabinet.saw.joint,
        through: cabinet.saw.through,
        inner,
    }
}

/// A brace as boards inside; a dowel is bought round and not sawn from a sheet.
fn boards_of(brace: &Brace, inside: [f64; 3]) -> Vec<Inner> {
    match *brace {
        Brace::Window { lies, at_mm, thickness_mm, open_part } => {
            let (mut at, mut size) = ([0.0; 3], inside);
            at[lies.axis()] = at_mm - thickness_mm / 2.0;
            size[lies.axis()] = thickness_mm;
            vec![Inner { name: "Window".into(), at, size, open_part }]
        }
        Brace::Shelf { lies, at_mm, thickness_mm, reach_part } => {
            let (mut at, mut size) = ([0.0; 3], inside);
            at[lies.axis()] = at_mm - thickness_mm / 2.0;
            size[lies.axis()] = thickness_mm;
            // from the back, or from the floor
            if lies == Lies::Frontal {
                size[1] = inside[1] * reach_part;
            } else {
                size[2] = inside[2] * reach_part;
                at[2] = inside[2] - size[2];
            }
            vec![Inner { name: "Shelf".into(), at, size, open_part: 0.0 }]
        }
        Brace::Cross { lies, at_mm, bar_mm } => {
            let axis = lies.axis();
            let (one, other) = ((axis + 1) % 3, (axis + 2) % 3);
            let bar = |along: usize, across: usize, from: f64, length: f64| {
                let (mut at, mut size) = ([0.0; 3], [bar_mm; 3]);
                at[axis] = at_mm - bar_mm / 2.0;
                at[across] = (inside[across] - bar_mm) / 2.0;
                at[along] = from;
                size[along] = length;
                Inner { name: "Cross bar".into(), at, size, open_part: 0.0 }
            };
            // one bar runs through, the other in two halves
            let half = (inside[other] - bar_mm) / 2.0;
            vec![
                bar(one, other, 0.0, inside[one]),
                bar(other, one, 0.0, half),
                bar(other, one, inside[other] - half, half),
            ]
        }
        Brace::Dowel { ties: Ties::Sides | Ties::FrontAndBack | Ties::FloorAndTop, .. } => Vec::new(),
    }
}

/// The board a part is of: the baffle may be of another.
fn board_of(cabinet: &Cabinet, part: &Part) -> Board {
    if part.name.starts_with("Baffle") { cabinet.baffle_board.unwrap_or(cabinet.board) } else { cabinet.board }
}

/// The cut list and sheets of a design; `None` without a cabinet.
pub fn cutting(design: &Design) -> Option<Cutting> {
    let cabinet = design.cabinet.as_ref()?;
    let saw = &cabinet.saw;
    let carcass = carcass(cabinet);
    let parts: Vec<CutPart> = carcass
        .parts()
        .into_iter()
        .map(|part| {
            let board = board_of(cabinet, &part);
            let (length, width) =
                (nearest(part.length_mm, saw.inches.steps()), nearest(part.width_mm, saw.inches.steps()));
            let rounding = if length.error_mm.abs() > width.error_mm.abs() { length.error_mm } else { width.error_mm };
            let volume = part.length_mm * part.width_mm * part.thickness_mm * 1e-9;
            CutPart {
                board: board.info().title.into(),
                rough_length_mm: part.length_mm + saw.oversize_mm,
                rough_width_mm: part.width_mm + saw.oversize_mm,
                length_in: length.to_string(),
                width_in: width.to_string(),
                rounding_mm: rounding,
                weight_kg: volume * board.info().density,
                part,
            }
        })
        .collect();
    let mut kinds: Vec<(String, f64)> = Vec::new();
    for part in &parts {
        let kind = (part.board.clone(), part.part.thickness_mm);
        if !kinds.iter().any(|k| k.0 == kind.0 && (k.1 - kind.1).abs() < 0.05) {
            kinds.push(kind);
        }
    }
    let sheet = Sheet {
        length: saw.sheet_length_mm,
        width: saw.sheet_width_mm,
        kerf: saw.kerf_mm,
        trim: saw.trim_mm,
        grain: saw.keep_grain,
    };
    let stocks = kinds
        .into_iter()
        .map(|(board, thickness)| {
            let of_it = parts.iter().filter(|p| p.board == board && (p.part.thickness_mm - thickness).abs() < 0.05);
            let pieces: Vec<Piece> = of_it
                .flat_map(|p| {
                    let piece =
                        Piece { label: p.part.label.clone(), length: p.rough_length_mm, width: p.rough_width_mm };
                    std::iter::repeat_n(piece, p.part.count as usize)
                })
                .collect();
            Stock {
                board,
                thickness_mm: thickness,
                sheet_length_mm: saw.sheet_length_mm,
                sheet_width_mm: saw.sheet_width_mm,
                trim_mm: saw.trim_mm,
                layout: layout(&sheet, &pieces),
            }
        })
        .collect();
    Some(Cutting { parts, stocks, weight_kg: crate::quiet::panels::weight(cabinet), air_l: carcass.air() * 1e-6 })
}
