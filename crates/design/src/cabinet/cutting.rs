//! From the cabinet to what is sawn: cut list with inches and weights, sheets for each board.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::lifting;
use oak_drum_acoustics::panels::{BOARDS, BoardMaterial as Material};
use oak_drum_cabinet::board::{Board, Role};
use oak_drum_cabinet::parts::{Part, parts};
use oak_drum_cabinet::sheets::{Layout, Piece, Sheet, layout_with};
use oak_drum_document::{Cabinet, Saw};
use oak_drum_text::Text;
use oak_drum_text::inches::nearest;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The cut list and the sheets of a design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Cutting {
    /// The parts, the largest first.
    pub parts: Vec<CutPart>,
    /// The sheets, a stock for each board and thickness.
    pub stocks: Vec<Stock>,
    /// Who lifts a whole sheet; absent where one person does, and where the shop cuts the sheets first.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lifting: Option<Text>,
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
    /// Length of its blank with the oversize, mm.
    pub rough_length_mm: f64,
    /// Width of its blank with the oversize, mm.
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
    /// The same by its stable name.
    pub of: Material,
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// Length of a sheet, mm.
    pub sheet_length_mm: f64,
    /// Width of a sheet, mm.
    pub sheet_width_mm: f64,
    /// What a whole sheet weighs, kg.
    pub sheet_kg: f64,
    /// What is trimmed off each edge, mm.
    pub trim_mm: f64,
    /// How the shop cuts each sheet first, so that its pieces can be carried; the layout is then on those pieces.
    pub shop: Option<ShopCuts>,
    /// How many sheets to buy.
    pub sheets: u32,
    /// The least number of sheets the areas allow.
    pub bound: u32,
    /// The layout.
    pub layout: Layout,
}

/// First cuts for the shop.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ShopCuts {
    /// How many pieces along the sheet.
    pub along: u32,
    /// How many across.
    pub across: u32,
    /// Length of a piece, mm.
    pub length_mm: f64,
    /// Width of a piece, mm.
    pub width_mm: f64,
}

/// Layers a board is glued up from, mm: a baffle of several, walls of two materials.
pub fn layers(cabinet: &Cabinet, board: &Board) -> Vec<f64> {
    let t = board.thickness_mm;
    match (board.role, cabinet.inner_layer) {
        (Role::Baffle, _) if cabinet.baffle_layers > 1 => {
            let n = f64::from(cabinet.baffle_layers);
            vec![t / n; cabinet.baffle_layers as usize]
        }
        (Role::Wall, Some(inner)) if inner.thickness_mm < t => vec![t - inner.thickness_mm, inner.thickness_mm],
        _ => vec![t],
    }
}

/// What a part is of: the baffle and the inner layer of the walls may be of another board.
fn board_of(cabinet: &Cabinet, part: &Part) -> Material {
    match (part.role, cabinet.inner_layer) {
        (Role::Baffle, _) => cabinet.baffle_board.unwrap_or(cabinet.board),
        (Role::Wall, Some(inner)) if part.edges.starts_with("glued up, layer 2") => inner.board,
        _ => cabinet.board,
    }
}

/// How a shop cuts a sheet so that its pieces can be carried: how many along and across, and their size.
fn shop_cuts(saw: &Saw) -> Option<ShopCuts> {
    let largest = saw.carried?;
    let ways = [(largest.length_mm, largest.width_mm), (largest.width_mm, largest.length_mm)];
    let cut = |(l, w): (f64, f64)| {
        let pieces = |whole: f64, most: f64| (1..40).find(|n| piece(whole, *n, saw.kerf_mm) <= most).unwrap_or(40);
        let (along, across) = (pieces(saw.sheet_length_mm, l), pieces(saw.sheet_width_mm, w));
        ShopCuts {
            along,
            across,
            length_mm: piece(saw.sheet_length_mm, along, saw.kerf_mm),
            width_mm: piece(saw.sheet_width_mm, across, saw.kerf_mm),
        }
    };
    let [a, b] = ways.map(cut);
    Some(if a.along * a.across <= b.along * b.across { a } else { b })
}

/// A side cut into equal pieces, mm.
fn piece(whole: f64, n: u32, kerf: f64) -> f64 {
    (whole - f64::from(n - 1) * kerf) / f64::from(n)
}

/// The cut list and sheets of a design; `None` without a cabinet.
pub fn cutting(analysis: &Analysis) -> Option<Cutting> {
    cutting_for(analysis, 1)
}

/// The same for so many equal cabinets, sawn together.
pub fn cutting_for(analysis: &Analysis, cabinets: u32) -> Option<Cutting> {
    cutting_of(analysis.design.cabinet.as_ref()?, &built(analysis)?, cabinets)
}

/// The cut list and sheets of so many equal cabinets.
pub fn cutting_of(cabinet: &Cabinet, built: &BuiltCabinet, cabinets: u32) -> Option<Cutting> {
    let saw = &cabinet.saw;
    let boards = &built.solids.boards;
    let parts: Vec<CutPart> = parts(boards, |board| layers(cabinet, board))
        .into_iter()
        .map(|mut part| {
            part.count *= cabinets;
            let board = board_of(cabinet, &part);
            let (length, width) =
                (nearest(part.length_mm, saw.inches.steps()), nearest(part.width_mm, saw.inches.steps()));
            let rounding = if length.error_mm.abs() > width.error_mm.abs() { length.error_mm } else { width.error_mm };
            let volume = part.length_mm * part.width_mm * part.thickness_mm * 1e-9;
            CutPart {
                board: if is_bar(&part) { BAR.into() } else { board.info().title.into() },
                rough_length_mm: part.blank_length_mm + saw.oversize_mm,
                rough_width_mm: part.blank_width_mm + saw.oversize_mm,
                length_in: length.to_string(),
                width_in: width.to_string(),
                rounding_mm: rounding,
                weight_kg: volume * board.info().density,
                part,
            }
        })
        .collect();
    let mut kinds: Vec<(String, f64)> = Vec::new();
    for part in parts.iter().filter(|p| p.board != BAR) {
        let kind = (part.board.clone(), part.part.thickness_mm);
        if !kinds.iter().any(|k| k.0 == kind.0 && (k.1 - kind.1).abs() < 0.05) {
            kinds.push(kind);
        }
    }
    let shop = shop_cuts(saw);
    let sheet = Sheet {
        length: shop.map_or(saw.sheet_length_mm, |s| s.length_mm),
        width: shop.map_or(saw.sheet_width_mm, |s| s.width_mm),
        kerf: saw.kerf_mm,
        trim: saw.trim_mm,
        grain: saw.keep_grain,
    };
    let stocks: Vec<Stock> = kinds
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
            // offcuts are of the walls' material
            let own: Vec<[f64; 2]> = saw
                .offcuts
                .iter()
                .filter(|o| (o.thickness_mm - thickness).abs() < 0.5 && board == cabinet.board.info().title)
                .map(|o| [o.length_mm, o.width_mm])
                .collect();
            let layout = layout_with(&sheet, &own, &pieces);
            let each = shop.map_or(1, |s| s.along * s.across);
            let known = BOARDS.iter().find(|b| b.title == board);
            let density = known.map_or(cabinet.board.info().density, |b| b.density);
            Stock {
                of: known.map_or(cabinet.board, |b| b.board),
                board,
                thickness_mm: thickness,
                sheet_length_mm: saw.sheet_length_mm,
                sheet_width_mm: saw.sheet_width_mm,
                sheet_kg: saw.sheet_length_mm * saw.sheet_width_mm * thickness * 1e-9 * density,
                trim_mm: saw.trim_mm,
                shop,
                sheets: layout.sheets.div_ceil(each),
                bound: layout.bound.div_ceil(each),
                layout,
            }
        })
        .collect();
    let lifting = saw.carried.is_none().then(|| lifting::whole_sheet(heaviest_sheet(&stocks))).flatten();
    let weight_kg = f64::from(cabinets) * boards_weight(cabinet, boards);
    let air: f64 = built.solids.inner
        - built.solids.bay
        - boards
            .iter()
            .filter(|b| {
                matches!(b.role, Role::Brace | Role::Fold | Role::Strip | Role::Bay | Role::Tunnel | Role::Dowel)
            })
            .map(Board::gross_of_windows)
            .sum::<f64>();
    Some(Cutting { parts, stocks, lifting: lifting.map(Text::from), weight_kg, air_l: air * 1e-6 })
}

/// What the heaviest whole sheet weighs, kg.
pub fn heaviest_sheet(stocks: &[Stock]) -> f64 {
    stocks.iter().map(|s| s.sheet_kg).fold(0.0, f64::max)
}

/// What strips and the bars of crosses are cut from.
pub const BAR: &str = "square bar";

/// Whether a part is a length of square bar: nobody rips those from a sheet.
fn is_bar(part: &Part) -> bool {
    part.role == Role::Strip || (part.role == Role::Brace && (part.width_mm - part.thickness_mm).abs() < 0.05)
}

/// Density of the heavy plastic a tube is of, kg/m³ (unplasticised PVC, common practice).
const TUBE_DENSITY: f64 = 1400.0;

/// What the boards weigh, kg.
fn boards_weight(cabinet: &Cabinet, boards: &[Board]) -> f64 {
    let density = |b: &Board| -> f64 {
        let layers = layers(cabinet, b);
        match b.role {
            Role::Tube => TUBE_DENSITY,
            Role::Baffle => cabinet.baffle_board.unwrap_or(cabinet.board).info().density,
            Role::Wall if layers.len() == 2 => {
                let inner = cabinet.inner_layer.map_or(cabinet.board, |l| l.board).info().density;
                (layers[0] * cabinet.board.info().density + layers[1] * inner) / b.thickness_mm
            }
            _ => cabinet.board.info().density,
        }
    };
    boards.iter().map(|b| b.volume() * 1e-9 * density(b)).sum::<f64>()
}

/// What the boards of a design's cabinet weigh with their holes cut, kg; `None` without a cabinet.
pub fn weight(analysis: &Analysis) -> Option<f64> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let small = cabinet.bracing_l * 1e-3 * cabinet.board.info().density;
    Some(boards_weight(cabinet, &built(analysis)?.solids.boards) + small)
}
