//! Boards, cut across.

use crate::drawing::{Drawing, HEIGHT, Look, sheet};

/// What the blade turns to dust.
pub fn kerf() -> Drawing {
    let mut on = sheet("A board cut in two: between the halves is missing what the blade is wide.");
    on.line(Look::Ink, "M14 34h98v20h-98zM124 34h102v20h-102z");
    on.line(Look::Cone, "M112 12h12v62h-12z");
    on.line(Look::Soft, "M112 78v6M124 78v6M112 81h12");
    on.say(130.0, HEIGHT - 6.0, "start", "kerf");
    on
}

/// A step cut along an edge.
pub fn rebate() -> Drawing {
    let mut on = sheet("Two boards at a corner: the upright one lies in a step cut into the edge of the level one.");
    on.line(Look::Ink, "M20 50H150V62H172V78H20z");
    on.line(Look::Cone, "M152 8H172V60H152z");
    on.say(182.0, 68.0, "start", "step");
    on
}

/// An edge sawn at a slant.
pub fn bevel() -> Drawing {
    let mut on = sheet("A board whose edge is sawn at a slant, with the angle between the slant and upright.");
    on.line(Look::Ink, "M20 28H140L160 62H20z");
    on.line(Look::Soft, "M140 28V78");
    on.line(Look::Cone, "M140 72A44 44 0 0 0 162 66");
    on.say(168.0, 76.0, "start", "blade's angle");
    on
}

/// An edge rounded with a router.
pub fn round_over() -> Drawing {
    let mut on = sheet("The edge of a board rounded to a radius.");
    on.line(Look::Ink, "M20 24H110A40 40 0 0 1 150 64H20z");
    on.line(Look::Soft, "M110 64V24M110 64L138.3 35.7M110 24H150V64");
    on.say(156.0, 34.0, "start", "radius");
    on
}
