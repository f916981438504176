//! Where a design stands: a room, a cabin or outdoors, the cabinets in it and who listens.
//!
//! Places are in metres: along the length from the left wall, across the width from the lower wall (both as the plan is drawn), and
//! above the floor.

use oak_drum_acoustics::room::partition::Partition;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most cabinets in a room.
pub const MOST_CABINETS: usize = 4;
/// Most seats in a room.
pub const MOST_SEATS: usize = 16;
/// Most areas kept free in a room.
pub const MOST_KEPT_FREE: usize = 12;

/// A room as the workshop keeps it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Room")]
pub struct Room {
    /// What it is called.
    #[schemars(title = "Name", length(min = 1, max = 120))]
    pub name: String,
    /// What it is.
    #[schemars(title = "Kind")]
    pub space: Space,
    /// Where nothing may stand: a door, a sofa.
    #[schemars(title = "Kept free", length(max = MOST_KEPT_FREE))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub kept_free: Vec<KeptFree>,
}

/// What surrounds a cabinet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Space {
    /// Four walls, a floor and a ceiling.
    #[schemars(title = "Room")]
    Room {
        /// From the left wall to the right one.
        #[schemars(title = "Length", range(min = 1.0, max = 60.0), extend("x-unit" = "m", "x-start" = 5.2))]
        length_m: f64,
        /// From the lower wall to the upper one, as the plan is drawn.
        #[schemars(title = "Width", range(min = 1.0, max = 60.0), extend("x-unit" = "m", "x-start" = 3.9))]
        width_m: f64,
        /// From the floor to the ceiling.
        #[schemars(title = "Height", range(min = 1.0, max = 60.0), extend("x-unit" = "m", "x-start" = 2.5))]
        height_m: f64,
        /// How its sound dies away.
        #[schemars(title = "Dies away")]
        damping: Damping,
        /// Below it the room's air goes out through cracks and doors: tight concrete 0 to 2 Hz, a house 3 to 8 Hz. Empty is what
        /// the walls take (common practice; an estimate).
        #[schemars(title = "Leaks below", range(min = 0.0, max = 30.0), extend("x-unit" = "Hz", "x-start" = 4.0))]
        #[serde(default, skip_serializing_if = "Option::is_none")]
        leak_hz: Option<f64>,
    },
    /// A car, a van, a booth: smaller than the waves it holds.
    #[schemars(title = "Cabin")]
    Cabin {
        /// Air in it.
        #[schemars(title = "Volume", range(min = 0.3, max = 60.0), extend("x-unit" = "m3", "x-start" = 3.0))]
        volume_m3: f64,
        /// Its longest side.
        #[schemars(title = "Longest side", range(min = 0.5, max = 15.0), extend("x-unit" = "m", "x-start" = 2.6))]
        length_m: f64,
        /// From the cabinet to who listens.
        #[schemars(title = "Listener at", range(min = 0.2, max = 10.0), extend("x-unit" = "m", "x-start" = 1.5))]
        distance_m: f64,
        /// Below it the air goes out through seals and vents: 5 to 12 Hz (common practice; an estimate).
        #[schemars(title = "Leaks below", range(min = 0.0, max = 30.0), extend("x-unit" = "Hz", "x-start" = 8.0))]
        leak_hz: f64,
        /// Where its pressure begins to rise.
        #[schemars(title = "Begins")]
        #[serde(default)]
        begins: CabinBegins,
    },
    /// Open ground, with a wall at the left or none.
    #[schemars(title = "Outdoors")]
    Outdoors {
        /// Length of the ground that is drawn.
        #[schemars(title = "Length", range(min = 2.0, max = 60.0), extend("x-unit" = "m", "x-start" = 16.0))]
        length_m: f64,
        /// Its width.
        #[schemars(title = "Width", range(min = 2.0, max = 60.0), extend("x-unit" = "m", "x-start" = 12.0))]
        width_m: f64,
        /// What part of the sound a wall along the left side takes, 0 as of a house, 1 as of nothing; empty without a wall.
        #[schemars(title = "Wall at the left takes", range(min = 0.0, max = 1.0), extend("x-start" = 0.1))]
        #[serde(default, skip_serializing_if = "Option::is_none")]
        wall_takes: Option<f64>,
    },
}

/// How the sound of a room dies away.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
pub enum Damping {
    /// By the time of reverberation in the bass: furnished 0.5 s, bare 0.8 s, a hall 1 to 2 s (common practice).
    #[schemars(title = "By its time")]
    Time {
        /// Time in which it falls by 60 dB.
        #[schemars(title = "T60", range(min = 0.05, max = 5.0), extend("x-unit" = "s", "x-start" = 0.5))]
        t60_s: f64,
    },
    /// By what each surface takes: 0 is hard as concrete, 1 an open window; a light wall takes 0.1 to 0.3 of the bass (common
    /// practice).
    #[schemars(title = "By its walls")]
    Walls {
        /// The left wall.
        #[schemars(title = "Left", range(min = 0.0, max = 1.0), extend("x-start" = 0.1))]
        left: f64,
        /// The right wall.
        #[schemars(title = "Right", range(min = 0.0, max = 1.0), extend("x-start" = 0.1))]
        right: f64,
        /// The lower wall, as the plan is drawn.
        #[schemars(title = "Lower", range(min = 0.0, max = 1.0), extend("x-start" = 0.1))]
        lower: f64,
        /// The upper wall, as the plan is drawn.
        #[schemars(title = "Upper", range(min = 0.0, max = 1.0), extend("x-start" = 0.1))]
        upper: f64,
        /// The floor.
        #[schemars(title = "Floor", range(min = 0.0, max = 1.0), extend("x-start" = 0.05))]
        floor: f64,
        /// The ceiling.
        #[schemars(title = "Ceiling", range(min = 0.0, max = 1.0), extend("x-start" = 0.15))]
        ceiling: f64,
        /// What stands open: a doorway, a stair.
        #[schemars(title = "Stands open", range(min = 0.0, max = 200.0), extend("x-unit" = "m2", "x-start" = 0.0))]
        #[serde(default)]
        open_m2: f64,
    },
}

/// Where the pressure of a cabin begins to rise.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CabinBegins {
    /// Where the sealed vessel's pressure meets that of half a space at the listener.
    #[default]
    #[schemars(title = "By its volume")]
    ByVolume,
    /// Where half a wave fits its longest side (common practice).
    #[schemars(title = "By its longest side")]
    ByLength,
}

/// A rectangle of the floor where nothing may stand.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Kept free")]
pub struct KeptFree {
    /// What is there.
    #[schemars(title = "What", length(max = 60))]
    #[serde(default)]
    pub name: String,
    /// Its middle along the length.
    #[schemars(title = "Along", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 1.0))]
    pub x_m: f64,
    /// Its middle across the width.
    #[schemars(title = "Across", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 1.0))]
    pub y_m: f64,
    /// How long it is.
    #[schemars(title = "Length", range(min = 0.05, max = 60.0), extend("x-unit" = "m", "x-start" = 1.0))]
    pub length_m: f64,
    /// How wide it is.
    #[schemars(title = "Width", range(min = 0.05, max = 60.0), extend("x-unit" = "m", "x-start" = 0.9))]
    pub width_m: f64,
}

/// Where a design stands, and who listens.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Where it stands")]
pub struct InRoom {
    /// The room: a copy of the workshop's.
    pub room: Room,
    /// The cabinets in it; the first is this build's.
    #[schemars(title = "Cabinets", length(min = 1, max = MOST_CABINETS))]
    pub cabinets: Vec<StandingCabinet>,
    /// Who listens; the first is the main seat.
    #[schemars(title = "Seats", length(min = 1, max = MOST_SEATS))]
    pub seats: Vec<Seat>,
    /// Whether the brief's level is held to the seats in this room in place of the open field: by its findings, by seeking and by
    /// trying the shelf.
    #[schemars(title = "Hold the brief to this room")]
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub holds_brief: bool,
    /// Who lives behind a wall.
    #[schemars(title = "Neighbour")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub neighbour: Option<Neighbour>,
}

/// Which wall of the plan the front of a cabinet looks at.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Facing {
    /// The right wall.
    #[default]
    Right,
    /// The upper wall, as the plan is drawn.
    Upper,
    /// The left wall.
    Left,
    /// The lower wall, as the plan is drawn.
    Lower,
}

/// A cabinet in a room.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Cabinet in the room")]
pub struct StandingCabinet {
    /// Its middle along the length.
    #[schemars(title = "Along", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 0.5))]
    pub x_m: f64,
    /// Its middle across the width.
    #[schemars(title = "Across", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 0.5))]
    pub y_m: f64,
    /// Its underside above the floor.
    #[schemars(title = "Raised", range(min = 0.0, max = 60.0), extend("x-unit" = "m", "x-start" = 0.0))]
    #[serde(default)]
    pub raised_m: f64,
    /// Where its front looks.
    #[schemars(title = "Front to the")]
    #[serde(default)]
    pub faces: Facing,
    /// What its level is set to against the others.
    #[schemars(title = "Level", range(min = -24.0, max = 24.0), extend("x-unit" = "dB", "x-start" = 0.0))]
    #[serde(default)]
    pub level_db: f64,
    /// By how much it comes later than the others.
    #[schemars(title = "Delay", range(min = 0.0, max = 500.0), extend("x-unit" = "ms", "x-start" = 0.0))]
    #[serde(default)]
    pub delay_ms: f64,
    /// Plus and minus exchanged.
    #[schemars(title = "Polarity turned")]
    #[serde(default)]
    pub inverted: bool,
    /// Another build that stands here; empty is this one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub other: Option<OtherBuild>,
}

/// Another build as it plays: what it was when it was put here.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Another build")]
pub struct OtherBuild {
    /// What it is called.
    #[schemars(title = "Name", length(max = 250))]
    pub name: String,
    /// Width, height and depth of its outside.
    #[schemars(extend("x-unit" = "mm"), inner(range(min = 10.0, max = 20000.0)))]
    pub outside_mm: [f64; 3],
    /// Frequencies its air is stated at, rising.
    #[schemars(length(min = 8, max = 400), inner(range(min = 1.0, max = 2000.0)), extend("x-unit" = "Hz"))]
    pub hz: Vec<f64>,
    /// What gives sound.
    #[schemars(length(min = 1, max = 24))]
    pub openings: Vec<OtherOpening>,
}

/// An opening of another build and the air it moves.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Opening of another build")]
pub struct OtherOpening {
    /// Its middle from the cabinet's left lower front corner, seen from before it: across, up, behind.
    #[schemars(extend("x-unit" = "mm"), inner(range(min = -20000.0, max = 20000.0)))]
    pub at_mm: [f64; 3],
    /// Volume velocity out of it, real part, at each frequency.
    #[schemars(length(min = 8, max = 400), inner(range(min = -1000.0, max = 1000.0)), extend("x-unit" = "m3/s"))]
    pub re: Vec<f64>,
    /// The same, imaginary part.
    #[schemars(length(min = 8, max = 400), inner(range(min = -1000.0, max = 1000.0)), extend("x-unit" = "m3/s"))]
    pub im: Vec<f64>,
}

/// Somebody who listens.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Seat")]
pub struct Seat {
    /// What it is called.
    #[schemars(title = "Name", length(max = 60))]
    #[serde(default)]
    pub name: String,
    /// Along the length.
    #[schemars(title = "Along", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 3.5))]
    pub x_m: f64,
    /// Across the width.
    #[schemars(title = "Across", range(min = -5.0, max = 65.0), extend("x-unit" = "m", "x-start" = 2.0))]
    pub y_m: f64,
    /// Ears above the floor.
    #[schemars(title = "Ears at", range(min = 0.0, max = 60.0), extend("x-unit" = "m", "x-start" = 1.2))]
    #[serde(default = "ears")]
    pub ears_m: f64,
}

fn ears() -> f64 {
    1.2
}

/// Who lives behind a wall, and how quiet it has to be there.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Neighbour")]
pub struct Neighbour {
    /// What stands between.
    #[schemars(title = "Behind")]
    pub wall: Partition,
    /// Its mass per area, where it is known better.
    #[schemars(title = "It weighs", range(min = 1.0, max = 2000.0), extend("x-unit" = "kg/m2", "x-start" = 225.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mass_kg_per_m2: Option<f64>,
    /// Mean level over the evening that may be there, weighted A.
    #[schemars(title = "At most", range(min = 0.0, max = 120.0), extend("x-unit" = "dBA"))]
    pub limit_dba: f64,
    /// How long the evening is.
    #[schemars(title = "Evening of", range(min = 0.25, max = 24.0), extend("x-unit" = "h"))]
    pub evening_h: f64,
}

impl Default for Neighbour {
    fn default() -> Self {
        Neighbour { wall: Partition::default(), mass_kg_per_m2: None, limit_dba: 30.0, evening_h: 4.0 }
    }
}

impl InRoom {
    /// What is wrong with it that several of its fields tell: places of a list each (JSON pointer below `/room`) and a sentence.
    pub(crate) fn problems(&self) -> Vec<(String, String)> {
        let mut list = Vec::new();
        for (i, other) in self.cabinets.iter().enumerate().filter_map(|(i, c)| Some((i, c.other.as_ref()?))) {
            if other.hz.windows(2).any(|pair| pair[1] <= pair[0]) {
                list.push((format!("cabinets/{i}/other/hz"), "frequencies that rise are expected".into()));
            }
            for (k, opening) in other.openings.iter().enumerate() {
                if opening.re.len() != other.hz.len() || opening.im.len() != other.hz.len() {
                    let message = format!("{} values are expected, one a frequency", other.hz.len());
                    list.push((format!("cabinets/{i}/other/openings/{k}/re"), message));
                }
            }
        }
        list
    }
}

impl Space {
    /// Length, width and height of what a plan is drawn of, m; outdoors the height is what stands there at most. `None` of a cabin,
    /// in which no places are known.
    pub fn sides(&self) -> Option<[f64; 3]> {
        match *self {
            Space::Room { length_m, width_m, height_m, .. } => Some([length_m, width_m, height_m]),
            Space::Outdoors { length_m, width_m, .. } => Some([length_m, width_m, 60.0]),
            Space::Cabin { .. } => None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::{VERSION, read_value};
    use serde_json::{Value, json};

    fn design(room: Value) -> Value {
        json!({"format": "oak-drum-design", "version": VERSION,
            "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
            "enclosure": {"family": "sealed", "net_volume_l": 60}, "room": room})
    }

    fn standing(space: Value) -> Value {
        json!({"room": {"name": "Parlour", "space": space}, "cabinets": [{"x_m": 0.5, "y_m": 0.6}],
            "seats": [{"x_m": 3.5, "y_m": 2.0}]})
    }

    fn wrong(room: Value) -> Vec<String> {
        read_value(design(room)).unwrap_err().into_iter().map(|p| p.pointer).collect()
    }

    /// Hard limits are named at their fields: a hall of a kilometre, a wall that takes more than all, a fifth cabinet, no seat.
    #[test]
    fn limits_stand_at_their_fields() {
        let plain = json!({"kind": "room", "length_m": 5.0, "width_m": 4.0, "height_m": 2.5, "damping": {"by": "time", "t60_s": 0.5}});
        assert!(read_value(design(standing(plain.clone()))).is_ok());
        let mut hall = plain.clone();
        hall["length_m"] = json!(1000.0);
        assert_eq!(wrong(standing(hall)), ["/room/room/space/length_m"]);
        let mut soft = plain.clone();
        soft["damping"] =
            json!({"by": "walls", "left": 1.2, "right": 0.1, "lower": 0.1, "upper": 0.1, "floor": 0.1, "ceiling": 0.1});
        assert_eq!(wrong(standing(soft)), ["/room/room/space/damping/left"]);
        let mut crowd = standing(plain.clone());
        crowd["cabinets"] = json!(vec![json!({"x_m": 1.0, "y_m": 1.0}); 5]);
        assert_eq!(wrong(crowd), ["/room/cabinets"]);
        let mut empty = standing(plain);
        empty["seats"] = json!([]);
        assert_eq!(wrong(empty), ["/room/seats"]);
    }

    /// Another build states as many values as frequencies, and these rise.
    #[test]
    fn another_build_is_whole() {
        let space = json!({"kind": "outdoors", "length_m": 10.0, "width_m": 8.0});
        let other = |hz: Vec<f64>, values: usize| {
            let mut room = standing(space.clone());
            room["cabinets"][0]["other"] = json!({"name": "B", "outside_mm": [400.0, 500.0, 450.0], "hz": hz,
                "openings": [{"at_mm": [200.0, 250.0, 0.0], "re": vec![0.001; values], "im": vec![0.0; values]}]});
            room
        };
        let rising: Vec<f64> = (1..=9).map(|i| f64::from(i) * 10.0).collect();
        assert!(read_value(design(other(rising.clone(), 9))).is_ok());
        assert_eq!(wrong(other(rising.clone(), 8)), ["/room/cabinets/0/other/openings/0/re"]);
        let falling = rising.into_iter().rev().collect();
        assert_eq!(wrong(other(falling, 9)), ["/room/cabinets/0/other/hz"]);
    }
}
