//! From the dry fit on: glue, what goes in before it is closed, closing it, the outside, proving it. The order is such that a
//! hand still reaches what each step touches:
//!
//! - a box or a tube with its woofers in its walls is closed for good and then filled through their holes no more;
//! - a bandpass box, a folded horn or a box with a tunnel, a woofer on a board inside, has a wall that comes off and goes on last;
//! - a folded path with its woofer in a wall is measured with the second side clamped, before that is glued.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::finishing;
use crate::cabinet::lifting::{Lifting, ONE_LIFTS};
use crate::cabinet::materials;
use crate::cabinet::materials::fill_grams;
use crate::cabinet::mounted_part::Kind;
use crate::cabinet::step::{LOUD, Letters, MAINS, SOLVENT, Step, mm, words};
use oak_drum_cabinet::board::{Board, Role};
use oak_drum_document::{Days, Shape};
use oak_drum_text::{Text, metres};

pub(super) struct Assembly<'a> {
    pub analysis: &'a Analysis,
    pub built: &'a BuiltCabinet,
    pub letters: &'a Letters<'a>,
    pub weight_kg: f64,
    pub days: &'a Days,
}

/// How the last wall goes on.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Closed {
    /// Glued, woofers go in from outside afterwards.
    Glued,
    /// Screwed on a gasket, last of all.
    Screwed,
    /// Clamped for measuring, then glued.
    Clamped,
}

fn step(stage: &str, id: &str, title: impl Into<String>, text: impl Into<String>, caution: Option<String>) -> Step {
    Step {
        id: id.into(),
        stage: stage.into(),
        title: title.into().into(),
        text: text.into().into(),
        caution: caution.map(Text::from),
        minutes: 0.0,
        hands: 1,
        tools: Vec::new(),
    }
}

impl Assembly<'_> {
    pub(super) fn steps(&self) -> Vec<Step> {
        let folded = self.folded().is_some();
        let closed = match (self.lid(), folded) {
            (Some(_), _) => Closed::Screwed,
            (None, true) => Closed::Clamped,
            (None, false) => Closed::Glued,
        };
        let mut list = self.glue();
        list.extend(self.port());
        list.push(self.seal());
        match closed {
            Closed::Glued => {
                list.extend(self.fill());
                list.push(self.close());
                list.extend(self.outside());
                list.extend(self.put_in());
                list.push(self.leak_test());
                list.extend(self.measure());
            }
            Closed::Screwed => {
                if !folded {
                    list.push(self.close());
                    list.extend(self.outside());
                }
                list.extend(self.put_in());
                list.extend(self.fill());
                list.extend(self.lid_on());
                list.push(self.leak_test());
                list.extend(self.measure());
                if folded {
                    list.extend(self.outside());
                }
            }
            Closed::Clamped => {
                list.extend(self.fill());
                list.push(step("Before closing", "side_clamped", "Clamp the second side, without glue",
                    "Dry, on a strip of foam tape, so that fill can still be changed: with a path, stuffing is decided by ear and by measuring before the side is glued.", None));
                list.extend(self.put_in());
                list.extend(self.measure());
                list.push(self.close());
                list.extend(self.outside());
                list.push(step("Put in", "woofers_back", "Put everything back", "Woofers, terminals and what else came out for the glue and the finish, on their gaskets, tightened crosswise.", None));
                list.push(self.leak_test());
            }
        }
        list.push(self.carry());
        list
    }

    fn folded(&self) -> Option<&crate::analysis::folding::Folded> {
        self.analysis.fold.as_ref().and_then(|f| f.as_ref().ok())
    }

    fn lid(&self) -> Option<&Board> {
        self.built.solids.boards.iter().find(|b| b.lid_screws > 0)
    }

    fn has(&self, role: Role) -> bool {
        self.built.solids.boards.iter().any(|b| b.role == role)
    }

    fn mounted_parts(&self, kind: Kind) -> usize {
        self.built.mounted_parts.iter().filter(|s| s.kind == kind).count()
    }

    fn tube(&self) -> bool {
        self.analysis.design.cabinet.as_ref().is_some_and(|c| matches!(c.shape, Shape::Tube { .. }))
    }

    /// The shell, as far as it goes together before anything is put in.
    fn glue(&self) -> Vec<Step> {
        let mut list = Vec::new();
        if self.tube() {
            list.push(step("Glue", "discs", "Fix the lower disc",
                "Glued and sealed all around, from inside too. The upper one stays off until everything is in that goes in from there.", None));
        } else if let Some(folded) = self.folded() {
            let names: Vec<String> = folded.fold.boards.iter().map(|(n, _)| self.letters.of(n)).collect();
            let baffles: Vec<String> = self
                .built
                .solids
                .boards
                .iter()
                .filter(|b| b.role == Role::Baffle)
                .map(|b| format!("{} ({})", self.letters.of(&b.name), b.name.to_lowercase()))
                .collect();
            list.push(step("Glue", "fold_lines", "Draw the fold on the sides",
                format!("From the fold section: the lines of {} on the inner faces of both sides, mirrored. Lay one on the other to check.", words(&names)), None));
            list.push(step("Glue", "fold_boards", "Boards of the fold onto one side",
                format!("Lay the left side flat, glue {} upright on their lines, then floor, top, back and {} around them. A square keeps them upright; seal every joint from inside.", words(&names), words(&baffles)), None));
        } else {
            let back_off = self.lid().is_some();
            list.push(step("Glue", "carcass", if back_off { "Glue floor, sides and top" } else { "Glue floor, sides, top and back" },
                if back_off {
                    "Front edges down on the bench: floor and one side first, then what stands between them, the other side, the top; the back clamped on dry so that it stays square. Baffle and back stay off. Wipe off what is squeezed out, run a fillet of glue along every inside corner."
                } else {
                    "Back face down on the bench: floor and one side first, then what stands between them, the other side, the top. The baffle stays off: the inside stays reachable to the end. Wipe off what is squeezed out, run a fillet of glue along every inside corner."
                }, None));
            if self.has(Role::Brace) || self.has(Role::Dowel) {
                list.push(step("Glue", "braces", "Glue the braces in",
                    "They go in with the carcass, not after it: a brace that is pressed in pushes the walls apart. Glue all around.", None));
            }
            if self.has(Role::Strip) {
                list.push(step("Glue", "strips", "Strips into the corners",
                    "Glue on both faces, pins until it holds. They seal the joint and give the baffle's screws something to bite.", None));
            }
        }
        if self.has(Role::Bay) {
            list.push(step("Glue", "bay", "The amplifier's own chamber",
                "Glue its boards to each other and to the back, airtight; the leads go through a gland or a sealed hole.", Some(MAINS.into())));
        }
        if self.has(Role::Tunnel) {
            let boards = &self.built.solids.boards;
            let mut names: Vec<String> =
                boards.iter().filter(|b| b.role == Role::Tunnel).map(|b| self.letters.of(&b.name)).collect();
            names.dedup();
            list.push(step("Glue", "tunnel", "The tunnel between the cones",
                format!("{} glued to each other and onto the inner face of the outer woofer's wall, around its hole, airtight: with the wall lying flat that is easy. The inner woofer is screwed onto its end from behind later, through the back, which comes off.", words(&names)), None));
        }
        if self.has(Role::Fold) && self.folded().is_none() {
            let board = self.built.solids.boards.iter().find(|b| b.role == Role::Fold);
            let letter = board.map_or_else(String::new, |b| self.letters.of(&b.name));
            list.push(step("Glue", "woofer_board", "The board between the chambers",
                format!("{letter}, glued all around, airtight. The woofer is screwed onto it from behind later, through the back, which comes off."), None));
        }
        list
    }

    fn port(&self) -> Vec<Step> {
        if self.mounted_parts(Kind::Port) == 0 {
            return Vec::new();
        }
        let length = self.analysis.wired.ports.first().map_or(0.0, |p| p.realised.length * 1e3);
        let slot = self.has(Role::Port);
        let text = if slot {
            format!(
                "Boards of the slot glued straight and parallel, {} long through the wall it leaves by. Its last board stays dry: the tuning is trimmed with it.",
                mm(length)
            )
        } else {
            format!(
                "Cut the tube to {}, or a little longer to trim; not glued yet. Its inner end stays clear of walls and fill.",
                mm(length)
            )
        };
        vec![
            step("Before closing", "port", if slot { "Build the port" } else { "Fit the port" }, text, None),
            step(
                "Before closing",
                "paint_port",
                "Paint inside the port",
                "Matt black, the first hand's breadth and what shows behind it, before the box is closed: later no brush gets there.",
                Some(SOLVENT.into()),
            ),
        ]
    }

    fn seal(&self) -> Step {
        step(
            "Before closing",
            "seal_edges",
            "Seal raw edges and joints",
            "Thinned glue or sealer on every raw edge inside, twice on MDF. Hold a lamp inside in the dark: light that comes out is a leak.",
            Some(SOLVENT.into()),
        )
    }

    fn fill(&self) -> Option<Step> {
        let grams = fill_grams(self.analysis);
        if grams <= 0.0 && self.analysis.wired.chambers.iter().all(|c| c.filled <= 0.0) {
            return None;
        }
        let clear = if self.mounted_parts(Kind::Port) > 0 { " and away from the port's end" } else { "" };
        let text = if grams > 0.0 {
            format!("{grams:.0} g, teased apart, held by a net or strings so that it stays out of the woofer{clear}.")
        } else {
            format!("As planned at Quiet, teased apart, away from the woofer's vent{clear}.")
        };
        Some(step(
            "Before closing",
            "fill",
            "Put the fill in",
            text,
            Some("Mineral wool itches and its dust is not for lungs: mask, gloves, long sleeves.".into()),
        ))
    }

    /// The last board that is glued.
    fn close(&self) -> Step {
        let stage = "Before closing";
        if self.tube() {
            return step(
                stage,
                "close",
                "Upper disc on",
                "Dry fit once more, glue, weights on top. Run a finger along the joint from inside, through the woofer's hole.",
                None,
            );
        }
        if self.folded().is_some() {
            return step(
                stage,
                "close",
                "Glue the second side",
                "Only when the measured impedance shows the tuning you want. Take out what would be in the way of clamps. Glue, screws, clamps from the middle outward.",
                None,
            );
        }
        let text = if self.lid().is_some() {
            "Dry fit once more, glue, clamps from the middle outward. Run a finger along the joint from behind as far as it reaches, and look along the rest with a lamp."
        } else {
            "Dry fit once more, glue, clamps from the middle outward. Look in through the woofer's hole and run a finger along the joint."
        };
        step(stage, "close", "Baffle on", text, None)
    }

    /// The wall that comes off goes on.
    fn lid_on(&self) -> Option<Step> {
        let lid = self.lid()?;
        let gasket = materials::lid_gasket_mm(self.built, lid) * 1e-3;
        Some(step(
            "Put in",
            "lid",
            format!("Screw the {} on", lid.name.to_lowercase()),
            format!(
                "{} on {gasket:.1} of gasket tape, along its rim and on every board that ends at it; {} screws, holes drilled first, from the middle outward and twice around. It stays the way to the woofer: no glue.",
                self.letters.of(&lid.name),
                lid.lid_screws,
                gasket = metres(gasket)
            ),
            None,
        ))
    }

    fn outside(&self) -> Vec<Step> {
        finishing::steps(self.analysis, self.days)
    }

    /// Woofers and everything else that is screwed on, and their wires.
    fn put_in(&self) -> Vec<Step> {
        let boards = &self.built.solids.boards;
        let screws: u32 = boards.iter().flat_map(|b| &b.holes).map(|h| h.screws).sum();
        let inside = self.built.mounted_parts.iter().any(|s| s.kind == Kind::Woofer && s.face.is_none());
        let mut on: Vec<String> = vec!["the woofer's frame".into()];
        let flange = |kind: Kind| self.built.mounted_parts.iter().any(|s| s.kind == kind && s.frame_mm.is_some());
        for (there, what) in [
            (self.mounted_parts(Kind::Radiator) > 0, "the radiators' frames"),
            (self.mounted_parts(Kind::Amplifier) > 0, "the amplifier"),
            (flange(Kind::Port), "the port's flange"),
            (self.mounted_parts(Kind::Terminals) > 0, "the terminals"),
        ] {
            if there {
                on.push(what.into());
            }
        }
        let design = &self.analysis.design;
        let wiring = crate::woofer::arrangement::wiring_in_words(
            design.array.count,
            self.analysis.woofer.coils,
            design.array.coils,
            design.array.woofers_in_series,
        );
        let reach = match (self.has(Role::Tunnel), inside) {
            (true, _) => " The inner woofer goes onto the tunnel's end from behind, its cone towards the tunnel.",
            (false, true) => " The woofer goes onto its board from the open side.",
            (false, false) => "",
        };
        vec![
            step(
                "Put in",
                "drill",
                "Drill for the screws",
                format!(
                    "{screws} screw holes after the templates, as deep as the screws less a thread, before anything is set in; threads or driven nuts hold better than chipboard screws."
                ),
                Some("Chips: eyes protected. Drill before the woofers are in; later cover their cones.".into()),
            ),
            step(
                "Put in",
                "gaskets",
                "Gaskets, then tighten crosswise",
                format!(
                    "Foam tape under {}, its ends meeting in a slant. Screws by hand, each opposite the last, twice around.{reach}",
                    words(&on)
                ),
                None,
            ),
            step(
                "Put in",
                "wire",
                "Wire it",
                format!(
                    "{wiring}. {} A leaking cable hole is sealed with glue.",
                    crate::woofer::arrangement::polarity_in_words(design)
                ),
                Some(MAINS.into()),
            ),
        ]
    }

    fn leak_test(&self) -> Step {
        let unloads = self.analysis.wired.unloads_below;
        let low = unloads.map_or_else(|| self.analysis.lowest_note(), |f| f * 1.2);
        let open = if self.mounted_parts(Kind::Port) > 0 {
            "everything but the port is airtight"
        } else if self.mounted_parts(Kind::Mouth) > 0 {
            "everything but the mouth is airtight"
        } else {
            "everything is airtight"
        };
        step(
            "Prove it",
            "leak_test",
            "Listen for leaks",
            format!(
                "A quiet tone near {low:.0} Hz at a stroke of a few millimetres: a leak sounds like paper flapping. Feel along the joints with a damp hand; {open}."
            ),
            Some(match unloads {
                Some(f) => {
                    format!("{LOUD} Below {f:.0} Hz nothing holds the cone: keep test tones above it, or quiet.")
                }
                None => LOUD.into(),
            }),
        )
    }

    fn measure(&self) -> Option<Step> {
        let folded = self.folded().is_some();
        if self.mounted_parts(Kind::Port) == 0 && !folded {
            return None;
        }
        let then = if self.lid().is_some() && folded { "" } else { " Only then glue." };
        let text = match self.analysis.wired.figures.iter().find(|f| f.id == "fb_hz") {
            Some(f) => format!(
                "The dip of the impedance between its two peaks is the tuning; it is to be {:.1} Hz. A built box usually lands a little below. Trim, measure again.{then}",
                f.value
            ),
            None => format!(
                "Hold the measured impedance against the curve here: peaks too high or too low tell of a leak, a wrong length or too much fill.{then}"
            ),
        };
        let title = if then.is_empty() { "Measure, change, measure again" } else { "Measure, trim, glue" };
        Some(step("Prove it", "trim", title, text, Some(LOUD.into())))
    }

    fn carry(&self) -> Step {
        let heavy = self.weight_kg > ONE_LIFTS;
        step(
            "Prove it",
            "carry",
            "Carry it to its place",
            Lifting::words(self.weight_kg),
            heavy.then(|| "Too heavy for one: straight backs, the way cleared first, nobody under it on steps.".into()),
        )
    }
}
