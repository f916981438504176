//! The boards of a rectangular cabinet as solids, and the cut list that follows from them.
//!
//! Baffle and back lie over the front and the back of the carcass, full width and height; floor, top and sides stand between
//! them. Which of those four covers which, and how they meet, is the builder's.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How the four boards of the carcass meet.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Joint {
    /// End against face.
    #[default]
    Butt,
    /// The end stands in a step sawn along the other's edge, half its thickness deep.
    Rebate,
    /// Both at 45 degrees.
    Mitre,
}

/// Which boards run through at the corners; of no effect with mitres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Through {
    /// Floor and top run over the ends of the sides.
    #[default]
    FloorAndTop,
    /// The sides run over the ends of floor and top.
    Sides,
}

/// A board between the walls.
#[derive(Clone, Debug, PartialEq)]
pub struct Inner {
    /// What it is called.
    pub name: String,
    /// Lower corner in the inside, mm from its left, floor and front.
    pub at: [f64; 3],
    /// Size, mm.
    pub size: [f64; 3],
    /// The part of its face that is sawn out.
    pub open_part: f64,
}

/// A rectangular cabinet as it is to be built.
#[derive(Clone, Debug, PartialEq)]
pub struct Carcass {
    /// Outside width, height, depth.
    pub outside: [f64; 3],
    /// Thickness of the boards.
    pub panel: f64,
    /// Thickness of the baffle.
    pub baffle: f64,
    /// How the four meet.
    pub joint: Joint,
    /// Which run through.
    pub through: Through,
    /// Braces and other boards inside.
    pub inner: Vec<Inner>,
}

/// A board as a block in space (before rebates and mitres are sawn).
#[derive(Clone, Debug, PartialEq)]
pub struct Solid {
    /// What it is called.
    pub name: String,
    /// Lower corner, mm from the cabinet's left, floor and baffle face.
    pub at: [f64; 3],
    /// Size, mm.
    pub size: [f64; 3],
    /// The part of its face that is sawn out.
    pub open_part: f64,
}

impl Solid {
    /// Volume, mm³; what is sawn out is off.
    pub fn volume(&self) -> f64 {
        self.size.iter().product::<f64>() * (1.0 - self.open_part)
    }
}

/// A part of the cut list.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Part {
    /// Letter on the pieces.
    pub label: String,
    /// What it is.
    pub name: String,
    /// How many alike.
    pub count: u32,
    /// Longer side, finished, mm.
    pub length_mm: f64,
    /// Shorter side, finished, mm.
    pub width_mm: f64,
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// What is sawn along its edges, in words; empty for nothing.
    pub edges: String,
}

impl Carcass {
    /// Inside width, height, depth, mm.
    pub fn inside(&self) -> [f64; 3] {
        let [w, h, d] = self.outside;
        [w - 2.0 * self.panel, h - 2.0 * self.panel, d - self.panel - self.baffle]
    }

    /// How far an end goes into the other board, mm.
    fn step(&self) -> f64 {
        if self.joint == Joint::Rebate { self.panel / 2.0 } else { 0.0 }
    }

    /// The boards as they stand, joints closed: what two boards share in a rebate or a mitre belongs to the one that runs
    /// through, so that no space is counted twice.
    pub fn solids(&self) -> Vec<Solid> {
        let [w, h, d] = self.outside;
        let (t, b) = (self.panel, self.baffle);
        let depth = d - t - b;
        let solid = |name: &str, at: [f64; 3], size: [f64; 3]| Solid { name: name.into(), at, size, open_part: 0.0 };
        let mut list = vec![solid("Baffle", [0.0, 0.0, 0.0], [w, h, b]), solid("Back", [0.0, 0.0, d - t], [w, h, t])];
        let floor_through = self.through == Through::FloorAndTop || self.joint == Joint::Mitre;
        let (flat, upright) = if floor_through { ((0.0, w), (t, h - 2.0 * t)) } else { ((t, w - 2.0 * t), (0.0, h)) };
        list.push(solid("Floor", [flat.0, 0.0, b], [flat.1, t, depth]));
        list.push(solid("Top", [flat.0, h - t, b], [flat.1, t, depth]));
        list.push(solid("Left side", [0.0, upright.0, b], [t, upright.1, depth]));
        list.push(solid("Right side", [w - t, upright.0, b], [t, upright.1, depth]));
        list.extend(self.inner.iter().map(|inner| Solid {
            name: inner.name.clone(),
            at: [inner.at[0] + t, inner.at[1] + t, inner.at[2] + b],
            size: inner.size,
            open_part: inner.open_part,
        }));
        list
    }

    /// Air inside, mm³.
    pub fn air(&self) -> f64 {
        let inside: f64 = self.inside().iter().map(|s| s.max(0.0)).product();
        inside - self.inner.iter().map(|i| i.size.iter().product::<f64>() * (1.0 - i.open_part)).sum::<f64>()
    }

    /// The cut list: parts alike in size and thickness together, the largest first. Lengths are of the finished blanks: an
    /// end that stands in a rebate is so much longer, a mitred board has its length at the long side.
    pub fn parts(&self) -> Vec<Part> {
        let step = self.step();
        let [w, h, _] = self.outside;
        let t = self.panel;
        let mut list: Vec<Part> = Vec::new();
        for solid in self.solids() {
            let mut size = solid.size;
            let carcass = ["Floor", "Top", "Left side", "Right side"].contains(&solid.name.as_str());
            let mut edges = String::new();
            if carcass {
                let flat = solid.name == "Floor" || solid.name == "Top";
                let axis = usize::from(!flat);
                let whole = if flat { w } else { h };
                let runs_through = (size[axis] - whole).abs() < 1e-9;
                match self.joint {
                    Joint::Butt => {}
                    Joint::Rebate if runs_through => {
                        edges = format!("both ends: rebate {t:.1} wide, {step:.1} deep");
                    }
                    Joint::Rebate => size[axis] += 2.0 * step,
                    Joint::Mitre => {
                        size[axis] = whole;
                        edges = "both ends: 45 degrees, the length is that of the outer face".into();
                    }
                }
            }
            if solid.open_part > 0.0 {
                edges = format!("saw out {:.0} % of it", solid.open_part * 100.0);
            }
            let mut sorted = size;
            sorted.sort_by(|a, b| b.total_cmp(a));
            let [length, width, thickness] = sorted;
            let same = |p: &Part| {
                (p.length_mm - length).abs() < 0.05
                    && (p.width_mm - width).abs() < 0.05
                    && (p.thickness_mm - thickness).abs() < 0.05
                    && p.edges == edges
            };
            match list.iter_mut().find(|p| same(p)) {
                Some(part) => {
                    part.count += 1;
                    part.name = format!("{}, {}", part.name, solid.name.to_lowercase());
                }
                None => list.push(Part {
                    label: String::new(),
                    name: solid.name,
                    count: 1,
                    length_mm: length,
                    width_mm: width,
                    thickness_mm: thickness,
                    edges,
                }),
            }
        }
        list.sort_by(|a, b| (b.length_mm * b.width_mm).total_cmp(&(a.length_mm * a.width_mm)));
        for (i, part) in list.iter_mut().enumerate() {
            part.label = letter(i);
        }
        list
    }
}

/// A, B, … Z, AA, AB, …
fn letter(i: usize) -> String {
    let last = char::from(b'A' + (i % 26) as u8);
    if i < 26 { last.to_string() } else { format!("{}{last}", letter(i / 26 - 1)) }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn carcass(joint: Joint, through: Through) -> Carcass {
        Carcass { outside: [420.0, 600.0, 485.0], panel: 18.0, baffle: 36.0, joint, through, inner: Vec::new() }
    }

    /// The boards fill the shell exactly: no space twice, none left out, whatever runs through.
    #[test]
    fn the_boards_are_the_shell() {
        for through in [Through::FloorAndTop, Through::Sides] {
            let c = carcass(Joint::Butt, through);
            let wood: f64 = c.solids().iter().map(Solid::volume).sum();
            let shell = c.outside.iter().product::<f64>() - c.inside().iter().product::<f64>();
            assert!((wood / shell - 1.0).abs() < 1e-12);
            // and no two of them overlap
            let solids = c.solids();
            for (i, a) in solids.iter().enumerate() {
                for b in &solids[i + 1..] {
                    let shared: f64 = (0..3)
                        .map(|k| ((a.at[k] + a.size[k]).min(b.at[k] + b.size[k]) - a.at[k].max(b.at[k])).max(0.0))
                        .product();
                    assert!(shared < 1e-9, "{} and {}", a.name, b.name);
                }
            }
        }
    }

    /// Worked by hand: 420 x 600 x 485 outside of 18 mm with a baffle of 36.
    #[test]
    fn the_cut_list_by_hand() {
        let sizes = |c: &Carcass| -> Vec<(String, u32, f64, f64, f64)> {
            c.parts().into_iter().map(|p| (p.name, p.count, p.length_mm, p.width_mm, p.thickness_mm)).collect()
        };
        let butt = sizes(&carcass(Joint::Butt, Through::FloorAndTop));
        assert!(butt.contains(&("Left side, right side".into(), 2, 564.0, 431.0, 18.0)), "{butt:?}");
        assert!(butt.contains(&("Floor, top".into(), 2, 431.0, 420.0, 18.0)));
        assert!(butt.contains(&("Baffle".into(), 1, 600.0, 420.0, 36.0)));
        let rebate = sizes(&carcass(Joint::Rebate, Through::FloorAndTop));
        assert!(rebate.contains(&("Left side, right side".into(), 2, 582.0, 431.0, 18.0)), "{rebate:?}");
        let mitre = sizes(&carcass(Joint::Mitre, Through::FloorAndTop));
        assert!(mitre.contains(&("Left side, right side".into(), 2, 600.0, 431.0, 18.0)), "{mitre:?}");
        assert_eq!([letter(0), letter(25), letter(26), letter(52)], ["A", "Z", "AA", "BA"]);
    }

    /// A brace takes its own volume from the air, less what is sawn out.
    #[test]
    fn braces_take_air() {
        let mut c = carcass(Joint::Butt, Through::FloorAndTop);
        let empty = c.air();
        let inside = c.inside();
        let inner =
            Inner { name: "Window".into(), at: [0.0, 250.0, 0.0], size: [inside[0], 18.0, inside[2]], open_part: 0.5 };
        let taken = inside[0] * 18.0 * inside[2] * 0.5;
        c.inner.push(inner);
        assert!((empty - c.air() - taken).abs() < 1e-6);
    }
}
