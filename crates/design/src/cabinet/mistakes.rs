//! Mistakes as they are made, and what to do now, worked out for this very cabinet. What to do is common practice; sizes are the
//! cabinet's own.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::clearance::clearances;
use crate::cabinet::step::{ROUTER, SAW};
use oak_drum_cabinet::board::Opening;
use oak_drum_document::{Change, Shape, read_value};
use oak_drum_text::{Quantity, Text, Unit, litres, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// A mistake.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Mistake")]
pub enum Mistake {
    /// A hole came out too small or too large.
    Hole {
        /// Which, by its place in the list of holes.
        #[schemars(title = "Hole", range(min = 0, max = 200))]
        hole: usize,
        /// By how much its diameter, or its side, is too small; negative is too large.
        #[schemars(title = "Too small by", range(min = -60.0, max = 60.0), extend("x-unit" = "mm"))]
        too_small_mm: f64,
    },
    /// The carcass stands out of square.
    OutOfSquare {
        /// The longer diagonal of the back.
        #[schemars(title = "Longer diagonal", range(min = 50.0, max = 10000.0), extend("x-unit" = "mm"))]
        longer_mm: f64,
        /// The shorter one.
        #[schemars(title = "Shorter diagonal", range(min = 50.0, max = 10000.0), extend("x-unit" = "mm"))]
        shorter_mm: f64,
        /// Whether the glue has set.
        #[schemars(title = "The glue has set")]
        glued: bool,
    },
    /// Air gets out.
    Leak {
        /// Where.
        #[schemars(title = "Where")]
        at: LeakAt,
    },
    /// A part came out different from what was drawn.
    Part {
        /// What of it, a place in the design (JSON pointer).
        #[schemars(title = "Part", length(max = 80))]
        pointer: String,
        /// What it measures; 1 and 0 are yes and no.
        #[schemars(title = "It measures", range(min = 0.0, max = 10000.0))]
        value: f64,
    },
}

/// Where air gets out.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(title = "Where it leaks")]
pub enum LeakAt {
    /// A glued joint.
    Joint,
    /// Under a frame or a panel that comes off.
    Gasket,
    /// Around wires or terminals.
    Wires,
}

/// What to do about a mistake.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MistakeCure {
    /// What, in a few words.
    pub title: Text,
    /// How.
    pub text: Text,
    /// What comes of it.
    pub predicted: Text,
    /// The caution that belongs here.
    pub caution: Option<Text>,
    /// What of the design becomes another; empty where it stays as it is drawn.
    pub changes: Vec<Change>,
}

/// A hole that can come out wrong.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct HoleDrawn {
    /// What goes in.
    pub name: String,
    /// Its diameter as drawn; of one that is not round its shorter side, mm.
    pub size_mm: f64,
    /// Whether it is round.
    pub round: bool,
}

/// Something of a part that may measure otherwise.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Measurable {
    /// Its place in the design (JSON pointer).
    pub pointer: String,
    /// What it is called.
    pub title: String,
    /// Unit; empty of yes and no.
    pub unit: String,
    /// What was drawn; absent where nothing is stated.
    pub drawn: Option<f64>,
}

/// What can go wrong with a cabinet, and what to do about what did.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Mistakes {
    /// Holes, in the order of the parts.
    pub holes: Vec<HoleDrawn>,
    /// Diagonal of the back as drawn, mm; absent of a tube.
    pub diagonal_mm: Option<f64>,
    /// What of the parts may measure otherwise.
    pub measurable: Vec<Measurable>,
    /// What went wrong, in a sentence; empty where nothing was told.
    pub said: Text,
    /// What to do now, the simplest first.
    pub cures: Vec<MistakeCure>,
}

/// Land a gasket and its screws want under a frame, mm (common practice).
const LAND: f64 = 9.0;
/// A difference a sanding drum takes off, mm in diameter (common practice).
const SANDED: f64 = 1.5;
/// A gap a gasket or glue fills by itself, mm (common practice).
const FILLED: f64 = 1.0;
/// Q of a leak one hears (an estimate: the box's own losses are ten and more).
const HEARD_LEAK: f64 = 3.0;

/// What of parts is measured: its place, what it is called, its unit.
const MEASURABLE: [(&str, &str, &str); 10] = [
    ("/woofer/cutout_mm", "woofer, cut-out", "mm"),
    ("/woofer/outside_diameter_mm", "woofer, outside diameter", "mm"),
    ("/woofer/depth_mm", "woofer, depth behind its frame", "mm"),
    ("/woofer/magnet_diameter_mm", "woofer, magnet", "mm"),
    ("/woofer/displacement_l", "woofer, what it displaces", "L"),
    ("/chain/amplifier/back/depth_mm", "amplifier, depth", "mm"),
    ("/chain/amplifier/back/width_mm", "amplifier, cut-out width", "mm"),
    ("/chain/amplifier/back/height_mm", "amplifier, cut-out height", "mm"),
    ("/chain/amplifier/back/open", "amplifier, open at its back", ""),
    ("/cabinet/panel_mm", "boards, thickness", "mm"),
];

/// What can go wrong with a design's cabinet, and what to do about `mistake`; `None` without a cabinet.
///
/// # Errors
/// The field of the mistake that does not fit, as a JSON pointer, and what is expected.
pub fn mistakes(analysis: &Analysis, mistake: Option<&Mistake>) -> Option<Result<Mistakes, (String, String)>> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let built = built(analysis)?;
    let document = serde_json::to_value(&analysis.design).ok()?;
    let holes: Vec<HoleDrawn> = built
        .solids
        .boards
        .iter()
        .flat_map(|b| &b.holes)
        .filter(|h| !h.is_of_board())
        .map(|h| {
            let (size_mm, round) = match h.opening {
                Opening::Round { diameter_mm } => (diameter_mm, true),
                Opening::Rectangle { length_mm, width_mm } | Opening::Triangle { length_mm, width_mm } => {
                    (length_mm.abs().min(width_mm.abs()), false)
                }
            };
            HoleDrawn { name: h.name.clone(), size_mm, round }
        })
        .collect();
    let square = !matches!(cabinet.shape, Shape::Tube { .. });
    let measurable = MEASURABLE.iter().filter_map(|(pointer, title, unit)| {
        let parent = pointer.rsplit_once('/').map_or("", |(parent, _)| parent);
        document.pointer(parent)?;
        let drawn = document.pointer(pointer).and_then(|v| v.as_f64().or(v.as_bool().map(f64::from)));
        Some(Measurable { pointer: (*pointer).into(), title: (*title).into(), unit: (*unit).into(), drawn })
    });
    let mut told = Mistakes {
        holes,
        diagonal_mm: square.then(|| cabinet.width_mm.hypot(cabinet.height_mm)),
        measurable: measurable.collect(),
        said: Text::default(),
        cures: Vec::new(),
    };
    let Some(mistake) = mistake else { return Some(Ok(told)) };
    let found = match mistake {
        Mistake::Hole { hole, too_small_mm } => of_hole(&told, &built, *hole, *too_small_mm),
        Mistake::OutOfSquare { longer_mm, shorter_mm, glued } => match told.diagonal_mm {
            Some(drawn) => {
                let sides = [cabinet.width_mm, cabinet.height_mm];
                out_of_square(sides, cabinet.depth_mm, drawn, [*longer_mm, *shorter_mm], *glued)
            }
            None => Err(("/mistake/kind".into(), "a tube has no diagonals".into())),
        },
        Mistake::Leak { at } => Ok(leak(analysis, document, *at)),
        Mistake::Part { pointer, value } => other_part(analysis, &told, document, pointer, *value),
    };
    Some(found.map(|(said, cures)| {
        (told.said, told.cures) = (said.into(), cures);
        told
    }))
}

type Told = Result<(String, Vec<MistakeCure>), (String, String)>;

fn cure(title: String, text: String, predicted: String, caution: Option<&str>) -> MistakeCure {
    let caution = caution.map(|c| Text::from(c.to_owned()));
    MistakeCure { title: title.into(), text: text.into(), predicted: predicted.into(), caution, changes: Vec::new() }
}

/// A hole of diameter D came out as D - d: a ring of D, taped on, guides a flush bit that takes d/2 all round. One that came out larger
/// is covered as long as the frame leaves a land for gasket and screws.
fn of_hole(told: &Mistakes, built: &BuiltCabinet, hole: usize, short: f64) -> Told {
    let Some(drawn) = told.holes.get(hole) else {
        return Err(("/mistake/hole".into(), format!("there are {} holes", told.holes.len())));
    };
    if short == 0.0 {
        return Err(("/mistake/too_small_mm".into(), "by how much it is off is expected".into()));
    }
    let (name, size) = (drawn.name.to_lowercase(), drawn.size_mm);
    let of_board = built.solids.boards.iter().flat_map(|b| b.holes.iter().map(move |h| (b, h)));
    let (board, cut) = of_board.filter(|(_, h)| !h.is_of_board()).nth(hole).unzip();
    let thick = board.map_or(18.0, |b| b.thickness_mm);
    let said = format!(
        "The hole of the {name} came out {:.1} too {}: {:.1} where {:.1} is drawn.",
        mm(short.abs()),
        if short > 0.0 { "small" } else { "large" },
        mm(size - short),
        mm(size)
    );
    let mut cures = Vec::new();
    if short > 0.0 {
        if short <= SANDED {
            cures.push(cure(
                "Sand it open".into(),
                format!(
                    "A sanding drum or paper round a block, {:.2} all round; try the part after every round.",
                    mm(short / 2.0)
                ),
                format!("{:.1}, as drawn", mm(size)),
                None,
            ));
        }
        if drawn.round {
            let again = cut.and_then(|h| h.recess).map_or(String::new(), |r| {
                format!(
                    " The recess of {:.1} the same way, with a ring of its own, {:.1} deep.",
                    mm(r.diameter_mm),
                    mm(r.depth_mm)
                )
            });
            cures.push(cure(
                "A ring and a flush bit".into(),
                format!(
                    "Cut a ring of scrap at least {:.0} thick, {:.1} inside, {:.0} outside; try the part in it. Tape it centred over the hole with double-sided tape; a flush-trim bit whose bearing runs in the ring takes {:.2} all round, {:.0} of wall in two passes.{again}",
                    mm(12.0),
                    mm(size),
                    mm(size + 80.0),
                    mm(short / 2.0),
                    mm(thick)
                ),
                format!("{:.1}, as drawn", mm(size)),
                Some(ROUTER),
            ));
        } else {
            cures.push(cure(
                "A straight edge and a flush bit".into(),
                format!(
                    "Clamp a straight board along the line of each side that is short and take {:.2} with a flush-trim bit; corners with a file.",
                    mm(short)
                ),
                format!("{:.1}, as drawn", mm(size)),
                Some(ROUTER),
            ));
        }
        return Ok((said, cures));
    }
    let frame = cut.and_then(|h| h.frame_mm);
    let land = frame.map(|f| (f - (size - short)) / 2.0);
    match land {
        Some(land) if land >= LAND => cures.push(cure(
            "Leave it: the frame covers it".into(),
            format!(
                "Its frame still lies on {:.1} all round. Gasket tape of that width, or a ring cut of closed-cell foam; check that every screw bites into wood, at least {:.0} from the hole's edge.",
                mm(land),
                mm(LAND / 2.0)
            ),
            "as drawn".into(),
            None,
        )),
        _ => {}
    }
    let outside = frame.unwrap_or(size) + 40.0;
    let covered = match land {
        Some(land) if land >= LAND => "if the screws do not bite".to_owned(),
        Some(land) => format!("its frame lies on {:.1} only", mm(land.max(0.0))),
        None => "nothing covers it".to_owned(),
    };
    cures.push(cure(
        "A ring from inside".into(),
        format!(
            "A ring of {:.0}, {:.0} outside and {:.1} inside, glued and screwed behind the hole, {covered}; the part's screws go into it. Check first that nothing stands there.",
            mm(thick),
            mm(outside),
            mm(size)
        ),
        format!(
            "takes {:.2} of air",
            litres(std::f64::consts::FRAC_PI_4 * (outside.powi(2) - size.powi(2)) * thick * 1e-6)
        ),
        Some(ROUTER),
    ));
    Ok((said, cures))
}

/// A rectangle of sides w and h that leans by x has diagonals with d1² - d2² = 4 w x.
fn out_of_square([w, h]: [f64; 2], depth: f64, drawn: f64, [longer, shorter]: [f64; 2], glued: bool) -> Told {
    if longer < shorter {
        return Err(("/mistake/longer_mm".into(), "the longer one is expected first".into()));
    }
    let mean = ((longer * longer + shorter * shorter) / 2.0).sqrt();
    if (mean / drawn - 1.0).abs() > 0.03 {
        let what = format!("these are no diagonals of this back: about {:.0} is expected", mm(drawn));
        return Err(("/mistake/longer_mm".into(), Text::from(what).metric()));
    }
    let lean = (longer * longer - shorter * shorter) / (4.0 * w);
    let said = format!(
        "The carcass leans: its diagonals are {:.1} and {:.1}, so that the top stands {:.1} to one side over {:.0}.",
        mm(longer),
        mm(shorter),
        mm(lean),
        mm(h)
    );
    // a leaning box keeps its sides and loses the cosine of its angle
    let lost = w * h * depth * 1e-6 * (1.0 - (1.0 - (lean / h).powi(2)).max(0.0).sqrt());
    let volume = format!("costs {:.2} of volume", litres(lost));
    let mut cures = Vec::new();
    if !glued {
        cures.push(cure(
            "Pull the longer diagonal in".into(),
            format!(
                "A clamp along the longer diagonal, tightened until both measure {:.1}; measure again when the others are tight, and leave it until the glue has set.",
                mm(mean)
            ),
            "square, as drawn".into(),
            None,
        ));
    } else if lean <= FILLED {
        cures.push(cure(
            "Leave it".into(),
            format!("A gap of {:.1} is filled by glue or gasket. Trim the back to the opening it has.", mm(lean)),
            volume.clone(),
            None,
        ));
    }
    if glued && lean > FILLED {
        cures.push(cure(
            "Cut the back to the opening".into(),
            format!(
                "Lay the panel on the opening, scribe round it from inside, and saw to the line: a taper of {:.1} over {:.0} on each long side.",
                mm(lean),
                mm(h)
            ),
            volume.clone(),
            Some(SAW),
        ));
        cures.push(cure(
            "A filler strip".into(),
            format!(
                "With the back sawn already: a wedge of the same board, {:.1} at its thick end and {:.0} long, glued along each side where the gap opens; planed flush, then sealed from inside with a bead of glue.",
                mm(lean),
                mm(h)
            ),
            volume,
            Some(SAW),
        ));
    }
    Ok((said, cures))
}

fn leak(analysis: &Analysis, mut document: Value, at: LeakAt) -> (String, Vec<MistakeCure>) {
    let (place, title, text) = match at {
        LeakAt::Joint => (
            "at a joint",
            "Seal it from inside",
            "Woofer out. A bead of glue along the joint, pressed in with a finger, or a 19 x 19 mm strip glued into the corner where the gap is wide. A day to set before it is tried again.",
        ),
        LeakAt::Gasket => (
            "under a frame",
            "A new gasket",
            "Frame off. Closed-cell tape, one ring without a gap at its ends, screws crosswise in three rounds, the last by hand. A frame that is not flat wants a softer, thicker tape.",
        ),
        LeakAt::Wires => (
            "around the wires",
            "Seal the wires",
            "Pull the wires back so that their sleeves lie in the hole, fill it with hot glue or acrylic from inside, and leave a loop so that nothing pulls at it.",
        ),
    };
    let text = text.replace("19 x 19 mm", &mm([19.0, 19.0]).to_string());
    // which of the losses is a leak's depends on the family
    let names = ["leak_q", "rear_leak_q", "front_leak_q"];
    let own = names.iter().find(|n| document["enclosure"].get(**n).is_some()).copied();
    let name = own.unwrap_or("leak_q");
    let mut predicted = "how much is lost hangs on its size; the Leaks view tells".to_owned();
    let before = analysis.edges().edges[0];
    oak_drum_document::apply(&mut document, &[Change::set(format!("/enclosure/{name}"), HEARD_LEAK)]);
    if let (Ok(leaking), Some(before)) = (read_value(document), before)
        && let Some(after) = Analysis::of(&leaking).edges().edges[0]
    {
        predicted = format!(
            "a leak one hears (Q of {HEARD_LEAK}) takes f3 from {before:.1} to {after:.1} Hz; sealed it is back"
        );
    }
    let find = cure(
        "Find all of it first".into(),
        "A steady tone near 20 Hz, soft, and a hand or a strip of tissue along every joint, frame and wire: air that is moved is felt. It sounds like paper flapping when it is loud.".into(),
        "one leak seldom comes alone".into(),
        None,
    );
    (format!("Air gets out {place}."), vec![cure(title.into(), text, predicted, None), find])
}

fn other_part(analysis: &Analysis, told: &Mistakes, mut document: Value, pointer: &str, value: f64) -> Told {
    let Some(of) = told.measurable.iter().find(|m| m.pointer == pointer) else {
        return Err(("/mistake/pointer".into(), "this cabinet has no such part".into()));
    };
    let say = |v: f64| match Unit::named(&of.unit) {
        Some(unit) => format!("{:.1}", Quantity { values: vec![v], unit }),
        None => (if v > 0.5 { "yes" } else { "no" }).to_owned(),
    };
    let new = if of.unit.is_empty() { Value::Bool(value > 0.5) } else { Value::from(value) };
    let drawn = of.drawn.map_or_else(|| "nothing was stated".to_owned(), |v| format!("{} was drawn", say(v)));
    let said = format!("{} measures {}; {drawn}.", oak_drum_text::capital(&of.title), say(value));
    let changes = vec![Change::set(pointer, new)];
    oak_drum_document::apply(&mut document, &changes);
    let changed = read_value(document).map_err(|problems| {
        let first = problems.first().map_or_else(String::new, |p| p.message.metric());
        ("/mistake/value".to_owned(), first)
    })?;
    let after = Analysis::of(&changed);
    let net = |a: &Analysis| a.ledger.as_ref().map(|l| (l.net_l, l.wanted_net_l));
    let mut words = Vec::new();
    if let (Some((before, _)), Some((now, wanted))) = (net(analysis), net(&after)) {
        words.push(format!(
            "the air is {:.1} (was {:.1}) where {:.1} is wanted",
            litres(now),
            litres(before),
            litres(wanted)
        ));
    }
    if let Some((cabinet, built)) = changed.cabinet.as_ref().zip(built(&after))
        && let Some(nearest) = clearances(cabinet, &built).first()
    {
        let how = if nearest.mm < 0.0 { "stand in each other by" } else { "are nearest, at" };
        words.push(format!("{} and {} {how} {:.0}", nearest.name, nearest.other, mm(nearest.mm.abs())));
    }
    let mut put_in = cure(
        "Put in what it measures".into(),
        "The plan, the cut list and the drawings follow it; findings then say what is left to do. Print again what is not sawn yet.".into(),
        words.join("; "),
        None,
    );
    put_in.changes = changes;
    Ok((said, vec![put_in]))
}
