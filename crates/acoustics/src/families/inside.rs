//! The inside of a chamber as the document has it: sides, places in it, where its fill lies.

use crate::network::cavity::{BARE_Q, Opening, Place};
use oak_drum_text::{litres, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The inside of a rectangular chamber: it then has standing waves instead of being a plain volume.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Inside of the chamber")]
pub struct Inside {
    /// Between the side walls.
    #[schemars(title = "Inside width", range(min = 50.0, max = 4000.0), extend("x-start" = 300, "x-unit" = "mm"))]
    pub width_mm: f64,
    /// From floor to top.
    #[schemars(title = "Inside height", range(min = 50.0, max = 4000.0), extend("x-start" = 450, "x-unit" = "mm"))]
    pub height_mm: f64,
    /// From the baffle to the back.
    #[schemars(title = "Inside depth", range(min = 50.0, max = 4000.0), extend("x-start" = 350, "x-unit" = "mm"))]
    pub depth_mm: f64,
    /// Middle of the woofer, from the left side wall.
    #[schemars(title = "Woofer across", range(min = 0.0, max = 4000.0), extend("x-start" = 150, "x-unit" = "mm"))]
    pub woofer_across_mm: f64,
    /// Middle of the woofer, from the floor.
    #[schemars(title = "Woofer up", range(min = 0.0, max = 4000.0), extend("x-start" = 280, "x-unit" = "mm"))]
    pub woofer_up_mm: f64,
    /// Middle of the port or radiator, from the left side wall; of no effect in a closed chamber.
    #[schemars(title = "Opening across", range(min = 0.0, max = 4000.0), extend("x-start" = 150, "x-unit" = "mm"))]
    #[serde(default)]
    pub opening_across_mm: f64,
    /// Middle of the port or radiator, from the floor.
    #[schemars(title = "Opening up", range(min = 0.0, max = 4000.0), extend("x-start" = 80, "x-unit" = "mm"))]
    #[serde(default)]
    pub opening_up_mm: f64,
    /// How far behind the baffle the port's inner end lies.
    #[schemars(title = "Opening behind", range(min = 0.0, max = 4000.0), extend("x-start" = 0, "x-unit" = "mm"))]
    #[serde(default)]
    pub opening_behind_mm: f64,
    /// Q of each standing wave by the bare walls and joints alone: about 40 in a wooden box (an estimate); 10 000 is as
    /// good as lossless.
    #[schemars(title = "Q of bare walls", range(min = 1.0, max = 10000.0), extend("x-start" = 40))]
    #[serde(default = "bare")]
    pub wall_q: f64,
    /// Where the fill lies: it damps a wave where the air moves.
    #[schemars(title = "Fill lies")]
    #[serde(default)]
    pub fill_lies: FillPlace,
    /// The fill as a lining of chosen walls; stated, it says how much is filled and where.
    #[schemars(title = "Lining")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lining: Option<Lining>,
}

/// A lining of chosen walls.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Lining")]
pub struct Lining {
    /// Thickness.
    #[schemars(title = "Thickness", range(min = 1.0, max = 1000.0), extend("x-start" = 40, "x-unit" = "mm"))]
    pub thickness_mm: f64,
    /// The left side wall.
    #[schemars(title = "Left")]
    #[serde(default)]
    pub left: bool,
    /// The right side wall.
    #[schemars(title = "Right")]
    #[serde(default)]
    pub right: bool,
    /// The floor.
    #[schemars(title = "Floor")]
    #[serde(default)]
    pub floor: bool,
    /// The top.
    #[schemars(title = "Top")]
    #[serde(default)]
    pub top: bool,
    /// The baffle's inner face.
    #[schemars(title = "Baffle")]
    #[serde(default)]
    pub baffle: bool,
    /// The back.
    #[schemars(title = "Back")]
    #[serde(default)]
    pub back: bool,
}

impl Lining {
    /// The box it leaves free in a chamber of these sides (m), as shares of each side: lower and upper corner.
    pub fn leaves_free(&self, sides: [f64; 3]) -> ([f64; 3], [f64; 3]) {
        let thick = sides.map(|side| (self.thickness_mm * 1e-3 / side).min(1.0));
        let low = [self.left, self.floor, self.baffle];
        let high = [self.right, self.top, self.back];
        let pick = |walls: [bool; 3], i: usize| if walls[i] { thick[i] } else { 0.0 };
        ([0, 1, 2].map(|i| pick(low, i)), [0, 1, 2].map(|i| 1.0 - pick(high, i)))
    }

    /// The part of the chamber it takes.
    pub fn part(&self, sides: [f64; 3]) -> f64 {
        let (low, high) = self.leaves_free(sides);
        1.0 - (0..3).map(|i| (high[i] - low[i]).max(0.0)).product::<f64>()
    }
}

fn bare() -> f64 {
    BARE_Q
}

/// Where the fill of a chamber with standing waves lies.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FillPlace {
    /// Evenly everywhere.
    #[default]
    Everywhere,
    /// On the walls.
    Walls,
    /// In the middle.
    Middle,
}

impl Inside {
    /// Sides, m: across, up, behind.
    pub fn sides(&self) -> [f64; 3] {
        [self.width_mm * 1e-3, self.height_mm * 1e-3, self.depth_mm * 1e-3]
    }

    /// The woofer's place, for a cone of `area` m².
    pub fn woofer(&self, area: f64) -> Opening {
        Opening { centre: [self.woofer_across_mm * 1e-3, self.woofer_up_mm * 1e-3, 0.0], area }
    }

    /// The place of the port or radiator, of `area` m².
    pub fn opening(&self, area: f64) -> Opening {
        let centre = [self.opening_across_mm * 1e-3, self.opening_up_mm * 1e-3, self.opening_behind_mm * 1e-3];
        Opening { centre, area }
    }

    /// Where the fill lies.
    pub fn place(&self) -> Place {
        if let Some(lining) = &self.lining {
            let (low, high) = lining.leaves_free(self.sides());
            return Place::Lined { low, high };
        }
        match self.fill_lies {
            FillPlace::Everywhere => Place::Everywhere,
            FillPlace::Walls => Place::Walls,
            FillPlace::Middle => Place::Middle,
        }
    }

    /// The part its lining takes, where it has one.
    pub fn lined(&self) -> Option<f64> {
        self.lining.map(|lining| lining.part(self.sides()))
    }

    /// What is wrong with it: (field, message). `net` is the chamber's net volume, L.
    pub fn problems(&self, net: f64) -> Vec<(&'static str, String)> {
        let mut list = Vec::new();
        for (field, value, most) in [
            ("woofer_across_mm", self.woofer_across_mm, self.width_mm),
            ("woofer_up_mm", self.woofer_up_mm, self.height_mm),
            ("opening_across_mm", self.opening_across_mm, self.width_mm),
            ("opening_up_mm", self.opening_up_mm, self.height_mm),
            ("opening_behind_mm", self.opening_behind_mm, self.depth_mm),
        ] {
            if value > most {
                list.push((
                    field,
                    format!(
                        "{value} lies outside the chamber; at most {most} is expected",
                        value = mm(value),
                        most = mm(most)
                    ),
                ));
            }
        }
        let inside = self.width_mm * self.height_mm * self.depth_mm * 1e-6;
        if inside < net * 0.8 {
            let message = format!(
                "the inside holds {inside:.1}, less than the net volume of {net}; make it deeper",
                inside = litres(inside),
                net = litres(net)
            );
            list.push(("depth_mm", message));
        }
        if let Some(lining) = &self.lining {
            let walls = [[lining.left, lining.right], [lining.floor, lining.top], [lining.baffle, lining.back]];
            let sides = [self.width_mm, self.height_mm, self.depth_mm];
            let most = (0..3)
                .map(|i| sides[i] / walls[i].iter().filter(|lined| **lined).count() as f64)
                .fold(f64::INFINITY, f64::min);
            if lining.thickness_mm > most {
                let message = format!(
                    "a lining of {} meets itself or the wall opposite; at most {:.0} is expected",
                    mm(lining.thickness_mm),
                    mm(most.floor())
                );
                list.push(("lining/thickness_mm", message));
            }
        }
        list
    }
}
