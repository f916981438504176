//! The cut list: boards alike in size, thickness and edges together, lettered from the largest.

use crate::board::{BAR_HOLE, Board, Outline, Role};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A part of the cut list.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Part {
    /// Letter on the pieces.
    pub label: String,
    /// What it is.
    pub name: String,
    /// How many alike.
    pub count: u32,
    /// Longer side, finished, mm: along the face, of ends that lean towards each other along the longer one.
    pub length_mm: f64,
    /// Shorter side, finished, mm.
    pub width_mm: f64,
    /// Longer side of the rectangle it is sawn from, mm: more than the length where both ends lean the same way.
    pub blank_length_mm: f64,
    /// Shorter side of that rectangle, mm.
    pub blank_width_mm: f64,
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// What is sawn along its edges, in words; empty for nothing.
    pub edges: Text,
    /// What it is to the cabinet.
    pub role: Role,
    /// Which boards it is, by their places in the list of boards.
    pub boards: Vec<u32>,
}

/// Whether a board comes from a sheet; tubes and round bars are bought.
pub fn is_sawn(board: &Board) -> bool {
    !matches!(board.role, Role::Tube | Role::Dowel)
}

/// The cut list. Lengths are of the boards as they are sawn: an end that stands in a rebate is so much longer, a mitred board
/// has the length of its outer face. `layers` says of a board which thicknesses (mm) it is glued up from.
pub fn parts(boards: &[Board], layers: impl Fn(&Board) -> Vec<f64>) -> Vec<Part> {
    let mut list: Vec<Part> = Vec::new();
    for (i, board) in boards.iter().enumerate().filter(|(_, b)| is_sawn(b)) {
        let ([a, b], [blank_a, blank_b]) = (board.size(), board.blank());
        let turned = b > a;
        let (length, width) = if turned { (b, a) } else { (a, b) };
        let (blank_length, blank_width) = if turned { (blank_b, blank_a) } else { (blank_a, blank_b) };
        let holes: Vec<&str> =
            board.holes.iter().filter(|h| !h.is_of_board() || h.name == BAR_HOLE).map(|h| h.name.as_str()).collect();
        let mut edges = board.edges.clone();
        if !holes.is_empty() {
            let words = format!("holes: {}", holes.join(", "));
            edges = if edges.is_empty() { words } else { format!("{edges}; {words}") };
        }
        if let Outline::Corners { face, .. } = &board.outline
            && face.len() != 4
        {
            edges =
                format!("{}cut to its outline", if edges.is_empty() { String::new() } else { format!("{edges}; ") });
        } else if let Outline::Corners { face, .. } = &board.outline {
            let [low, high] = board.extent();
            let square = face.iter().all(|p| {
                (0..2).all(|k| {
                    (p[k] - low[k]).abs() < 0.05 || (p[k] - high[k]).abs() < 0.05 || board.bevels() != [0.0; 2]
                })
            });
            if !square {
                edges = format!(
                    "{}one side at an angle, see its drawing",
                    if edges.is_empty() { String::new() } else { format!("{edges}; ") }
                );
            }
        }
        let glued = layers(board);
        let several = glued.len() > 1;
        for (k, thickness) in glued.into_iter().enumerate() {
            let words = if several && edges.is_empty() {
                format!("glued up, layer {}", k + 1)
            } else if several {
                format!("glued up, layer {}; {edges}", k + 1)
            } else {
                edges.clone()
            };
            let same = |p: &Part| {
                (p.length_mm - length).abs() < 0.05
                    && (p.width_mm - width).abs() < 0.05
                    && (p.blank_length_mm - blank_length).abs() < 0.05
                    && (p.thickness_mm - thickness).abs() < 0.05
                    && p.edges == Text::from(words.as_str())
                    && (p.role == Role::Baffle) == (board.role == Role::Baffle)
            };
            match list.iter_mut().find(|p| same(p)) {
                Some(part) => {
                    part.count += 1;
                    if !part.name.to_lowercase().split(", ").any(|n| n == board.name.to_lowercase()) {
                        part.name = format!("{}, {}", part.name, board.name.to_lowercase());
                    }
                    part.boards.push(i as u32);
                }
                None => list.push(Part {
                    label: String::new(),
                    name: board.name.clone(),
                    count: 1,
                    length_mm: length,
                    width_mm: width,
                    blank_length_mm: blank_length,
                    blank_width_mm: blank_width,
                    thickness_mm: thickness,
                    edges: words.into(),
                    role: board.role,
                    boards: vec![i as u32],
                }),
            }
        }
    }
    list.sort_by(|a, b| (b.length_mm * b.width_mm).total_cmp(&(a.length_mm * a.width_mm)));
    for (i, part) in list.iter_mut().enumerate() {
        part.label = letter(i);
    }
    list
}

/// A, B, … Z, AA, AB, …
pub fn letter(i: usize) -> String {
    let last = char::from(b'A' + (i % 26) as u8);
    if i < 26 { last.to_string() } else { format!("{}{last}", letter(i / 26 - 1)) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::carcass::{Carcass, Front, Housing, Joint, Through};

    /// Worked by hand: 420 x 600 x 485 outside of 18 mm with a baffle of 36.
    #[test]
    fn the_cut_list_by_hand() {
        let sizes = |joint: Joint| -> Vec<(String, u32, f64, f64, f64)> {
            let c = Carcass {
                outside: [420.0, 600.0, 485.0],
                panel: 18.0,
                baffle: 36.0,
                front: Front::Straight,
                joint,
                through: Through::FloorAndTop,
                housing: Housing::Butt,
                inner: Vec::new(),
                lid: None,
                open_front: Vec::new(),
            };
            let list = parts(&c.boards(), |b| vec![b.thickness_mm]);
            list.into_iter().map(|p| (p.name, p.count, p.length_mm, p.width_mm, p.thickness_mm)).collect()
        };
        let butt = sizes(Joint::Butt);
        assert!(butt.contains(&("Left side, right side".into(), 2, 564.0, 431.0, 18.0)), "{butt:?}");
        assert!(butt.contains(&("Floor, top".into(), 2, 431.0, 420.0, 18.0)));
        assert!(butt.contains(&("Baffle".into(), 1, 600.0, 420.0, 36.0)));
        let rebate = sizes(Joint::Rebate);
        assert!(rebate.contains(&("Left side, right side".into(), 2, 582.0, 431.0, 18.0)), "{rebate:?}");
        let mitre = sizes(Joint::Mitre);
        assert!(mitre.contains(&("Left side, right side".into(), 2, 600.0, 431.0, 18.0)), "{mitre:?}");
        assert_eq!([letter(0), letter(25), letter(26), letter(52)], ["A", "Z", "AA", "BA"]);
    }

    /// Two layers of 3/4 in plywood that measures 1/32 in under are 1/16 in short of 1 1/2 in (common practice).
    #[test]
    fn two_layers_of_thin_plywood() {
        let layer: f64 = (0.75 - 1.0 / 32.0) * 25.4;
        assert!((1.5 * 25.4 - 2.0 * layer - 25.4 / 16.0).abs() < 1e-12);
        let c = Carcass {
            outside: [400.0; 3],
            panel: layer,
            baffle: 2.0 * layer,
            front: Front::Straight,
            joint: Joint::Butt,
            through: Through::Sides,
            housing: Housing::Butt,
            inner: Vec::new(),
            lid: None,
            open_front: Vec::new(),
        };
        let list = parts(&c.boards(), |b| {
            let n = if b.role == Role::Baffle { 2u8 } else { 1 };
            vec![b.thickness_mm / f64::from(n); usize::from(n)]
        });
        let baffle: u32 = list.iter().filter(|p| p.role == Role::Baffle).map(|p| p.count).sum();
        assert_eq!(baffle, 2);
        assert!(list.iter().all(|p| (p.thickness_mm - layer).abs() < 1e-9));
    }
}
