//! The cabinet as it is shown: boards in space, faces to put things on, clearances, the fold.

use crate::analysis::Analysis;
use crate::analysis::folding::outside_for;
use crate::analysis::spots::frame_of;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::clearance::{Clearance, clearances};
use crate::cabinet::cutting::weight;
use crate::cabinet::mounted_part::{Kind, MountedPart};
use oak_drum_cabinet::board::{Board, P2};
use oak_drum_cabinet::drawing::svg;
use oak_drum_cabinet::fold::{Mouth, Segment};
use oak_drum_cabinet::parts::parts;
use oak_drum_document::{Change, Mounting, Shape};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The cabinet of a design as it stands.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct CabinetView {
    /// Its boards, holes cut.
    pub boards: Vec<Shown>,
    /// What sits on it.
    pub mounted_parts: Vec<MountedPart>,
    /// How near things are, the nearest first.
    pub clearances: Vec<Clearance>,
    /// Its faces.
    pub faces: Vec<FaceView>,
    /// Outside width, height, depth as it is built, mm.
    pub outside_mm: [f64; 3],
    /// With feet, veneer and what stands before a face, mm.
    pub overall_mm: [f64; 3],
    /// Which of the sides follow from what is held.
    pub follows: Vec<String>,
    /// The net volume the design is computed with, L.
    pub wanted_net_l: f64,
    /// The net volume the boards leave, L.
    pub net_l: f64,
    /// Weight of the boards, kg.
    pub weight_kg: f64,
    /// The fold, where there is one.
    pub fold: Option<FoldView>,
    /// Why there is none.
    pub unfit: Option<UnfitView>,
    /// The side section with what sits in it, as SVG; of a folded path the fold.
    pub section_svg: String,
}

/// A board with its letter.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Shown {
    /// Letter in the cut list; empty of what is not sawn.
    pub label: String,
    /// The board.
    #[serde(flatten)]
    pub board: Board,
}

/// A face to put things on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FaceView {
    /// 0 baffle, 1 back, 2 left, 3 right, 4 top, 5 floor.
    pub face: u32,
    /// What it is called.
    pub title: String,
    /// How it is written in the document.
    pub word: String,
    /// Width, mm.
    pub width_mm: f64,
    /// Height, mm.
    pub height_mm: f64,
    /// Whether it is a disc.
    pub disc: bool,
}

/// A fold as it came out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FoldView {
    /// Length along the centre line, mm.
    pub length_mm: f64,
    /// Length the design asks for, mm.
    pub wanted_mm: f64,
    /// Factor of the areas at both ends of the segments.
    pub scale: P2,
    /// Segments in the section (z, y).
    pub segments: Vec<Segment>,
    /// Centre line (z, y), mm.
    pub centre: Vec<P2>,
    /// Areas along it as built: (mm, cm²).
    pub built: Vec<P2>,
    /// Areas as designed: (mm, cm²).
    pub designed: Vec<P2>,
    /// Mouths.
    pub mouths: Vec<Mouth>,
    /// The closed chamber beside it, L; gross.
    pub chamber_l: Option<f64>,
    /// What would make the box as large as the path wants.
    pub sized: Vec<Change>,
}

/// Why a path does not fold.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct UnfitView {
    /// In words.
    pub message: Text,
    /// What would make the box large enough.
    pub sized: Vec<Change>,
}

const FACES: [(&str, &str); 6] = [
    ("Baffle", "baffle"),
    ("Back, from behind", "back"),
    ("Left side", "side"),
    ("Right side", "side"),
    ("Top", "top"),
    ("Floor, from below", "floor"),
];

/// The cabinet of a design as it stands; `None` without one.
pub fn view(analysis: &Analysis) -> Option<CabinetView> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let built = built(analysis)?;
    let list = parts(&built.solids.boards, |b| super::cutting::layers(cabinet, b));
    let label =
        |i: usize| list.iter().find(|p| p.boards.contains(&(i as u32))).map_or(String::new(), |p| p.label.clone());
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let shown_faces: &[u32] = if tube { &[4, 5] } else { &[0, 1, 2, 3, 4, 5] };
    let faces = shown_faces
        .iter()
        .map(|face| {
            let frame = frame_of(cabinet, built.solids.carcass.as_ref(), *face, 0.0);
            let (title, word) = FACES[*face as usize];
            FaceView {
                face: *face,
                title: title.into(),
                word: word.into(),
                width_mm: frame.size[0],
                height_mm: frame.size[1],
                disc: tube,
            }
        })
        .collect();
    let sized = || -> Vec<Change> {
        match outside_for(&analysis.design) {
            Some(Ok([depth, height])) => {
                vec![Change::set("/cabinet/depth_mm", depth), Change::set("/cabinet/height_mm", height)]
            }
            _ => Vec::new(),
        }
    };
    let outside = [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm];
    let veneer = cabinet.veneer_mm.unwrap_or(0.0);
    let feet = cabinet.feet_mm.unwrap_or(0.0);
    use oak_drum_document::Constraint;
    let follows: &[&str] = match (cabinet.held, analysis.fold.is_some(), tube) {
        (_, true, _) | (Constraint::All, ..) => &[],
        (Constraint::Outside, ..) => &["volume"],
        (Constraint::Ratio, ..) => &["width_mm", "height_mm", "depth_mm"],
        (Constraint::WidthAndHeight, _, false) => &["depth_mm"],
        (Constraint::HeightAndDepth, _, false) => &["width_mm"],
        _ => &["height_mm"],
    };
    let ledger = analysis.ledger.as_ref();
    // the outer woofer of a face-to-face pair stands before its face
    let mut overall = [outside[0] + 2.0 * veneer, outside[1] + 2.0 * veneer + feet, outside[2] + 2.0 * veneer];
    if analysis.design.array.isobaric.is_some_and(|pair| pair.mounting == Mounting::FaceToFace) {
        let mut before = [[0.0f64; 2]; 3];
        for mounted_part in built.mounted_parts.iter().filter(|s| s.kind == Kind::Woofer && s.face.is_some()) {
            for (k, way) in mounted_part.inward.iter().enumerate().filter(|(_, way)| way.abs() > 0.7) {
                let side = &mut before[k][usize::from(*way > 0.0)];
                *side = side.max(mounted_part.depth_mm);
            }
        }
        for (side, [one, other]) in overall.iter_mut().zip(before) {
            *side += one + other;
        }
    }
    Some(CabinetView {
        clearances: clearances(cabinet, &built),
        boards: built
            .solids
            .boards
            .iter()
            .enumerate()
            .map(|(i, board)| Shown { label: label(i), board: board.clone() })
            .collect(),
        mounted_parts: built.mounted_parts,
        faces,
        outside_mm: outside,
        overall_mm: overall,
        follows: follows.iter().map(|s| (*s).to_owned()).collect(),
        wanted_net_l: ledger.map_or(0.0, |l| l.wanted_net_l),
        net_l: ledger.map_or(0.0, |l| l.net_l),
        weight_kg: weight(analysis)?,
        fold: analysis.fold.as_ref().and_then(|f| f.as_ref().ok()).map(|folded| {
            let designed = crate::analysis::folding::designed(&analysis.design);
            FoldView {
                length_mm: folded.fold.length,
                wanted_mm: folded.wanted_mm,
                scale: folded.fold.scale,
                segments: folded.fold.segments.clone(),
                centre: folded.fold.centre.clone(),
                built: folded.fold.stations.iter().map(|s| [s[0], s[1] * 1e-2]).collect(),
                designed,
                mouths: folded.fold.mouths.clone(),
                chamber_l: folded.fold.chamber.as_ref().map(|c| c.1 * 1e-6),
                sized: sized(),
            }
        }),
        section_svg: super::drawings::section_of(analysis).map_or(String::new(), |d| svg::write(&d)),
        unfit: analysis
            .fold
            .as_ref()
            .and_then(|f| f.as_ref().err())
            .map(|unfit| UnfitView { message: unfit.message.as_str().into(), sized: sized() }),
    })
}
