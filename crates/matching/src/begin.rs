//! Beginning from what one has: a woofer, perhaps an amplifier, a purpose, a space. Three boxes come of it that are worth comparing: the
//! smallest that plays the lowest note, the one that goes deepest and the one that plays loudest in the size that may stand there; each
//! with a cabinet that holds it.

use crate::goal::Goal;
use crate::outcome::Verdict;
use crate::run;
use crate::seek::{Reach, Seek, Trade, seek_best};
use oak_drum_acoustics::amplifier::{Amplifier, Rating};
use oak_drum_acoustics::driver::Woofer;
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::port::{End, Section};
use oak_drum_design::airway::speed::{AirSpeed, air_speed};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::brief::purpose::Purpose;
use oak_drum_design::cabinet::from_box::{Form, from_box};
use oak_drum_design::drive::likely::likely_amplifier;
use oak_drum_design::suggest;
use oak_drum_document::{Brief, Change, Checked, Design, Drive, apply, read_current};
use oak_drum_text::{Text, litres};
use rayon::prelude::*;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::json;
use std::f64::consts::PI;

/// A space it has to go into.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "GivenSpace", title = "Space")]
pub struct Space {
    /// Its width.
    #[schemars(title = "Width", range(min = 100.0, max = 5000.0), extend("x-start" = 600, "x-unit" = "mm"))]
    pub width_mm: f64,
    /// Its height.
    #[schemars(title = "Height", range(min = 100.0, max = 5000.0), extend("x-start" = 600, "x-unit" = "mm"))]
    pub height_mm: f64,
    /// Its depth.
    #[schemars(title = "Depth", range(min = 100.0, max = 5000.0), extend("x-start" = 500, "x-unit" = "mm"))]
    pub depth_mm: f64,
}

/// What boards are sawn with.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum SawnBy {
    /// A hand saw or a jigsaw.
    #[schemars(title = "a hand saw or jigsaw")]
    HandSaw,
    /// The shop that sells them.
    #[schemars(title = "the shop cuts them")]
    Shop,
    /// A table saw or a track saw.
    #[schemars(title = "a table or track saw")]
    TableSaw,
    /// A router table or a CNC machine.
    #[schemars(title = "a router table or CNC")]
    Machine,
}

/// What one begins from; all of it may be left open.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Begin")]
pub struct Begin {
    /// What it is for.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub purpose: Option<Purpose>,
    /// The woofer; left open, one is picked ([`picked`]) before.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub woofer: Option<Woofer>,
    /// The amplifier.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub amplifier: Option<Amplifier>,
    /// What the amplifier gives, where that is all that is known of it.
    #[schemars(title = "It gives")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gives: Option<Rating>,
    /// The space it has to go into.
    #[schemars(title = "It has to go into a space")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub space: Option<Space>,
    /// What it may cost, in the workshop's own money.
    #[schemars(title = "It may cost", range(min = 0.0, max = 1000000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub budget: Option<f64>,
    /// What boards are sawn with: pieces for a hand saw or from a shop are planned so that they can be carried.
    #[schemars(title = "Boards are sawn by", extend("x-empty" = "not said"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sawn_by: Option<SawnBy>,
}

/// A box to begin with.
#[derive(Clone, Debug, PartialEq, Serialize, JsonSchema)]
pub struct BegunBox {
    /// Stable name: `small`, `deep`, `loud`.
    pub id: String,
    /// What it is called.
    pub title: String,
    /// Why it is worth comparing, in figures.
    pub sentence: Text,
    /// The design.
    pub design: Design,
}

/// What came of it.
#[derive(Clone, Debug, PartialEq, Serialize, JsonSchema)]
pub struct Begun {
    /// The boxes, no two alike.
    pub boxes: Vec<BegunBox>,
    /// Why the brief is as it is.
    pub reasons: Vec<Text>,
    /// What could not be had, and why.
    pub left_out: Vec<Text>,
}

/// The note that is looked at where no purpose is stated, Hz (common practice: the lowest of most music is 41 Hz).
const USUAL_NOTE: f64 = 40.0;
/// Without a stated space the deep and the loud one are at most so many times as large as the small one.
const LARGER: f64 = 2.0;
/// Where the lowest note is out of reach, so much higher ones are tried, as factors.
const HIGHER: [f64; 4] = [1.0, 1.2, 1.5, 2.0];

/// A box whose f3 lies higher over the lowest note is no bass box, as a factor.
const NO_BASS: f64 = 1.6;

impl Begin {
    /// The amplifier as it is known: by its sheet, or by what it gives alone. Then it is promised no lower load than the one stated.
    fn amplifier(&self) -> Option<Amplifier> {
        let rated = |r: Rating| Amplifier::rated(r.power_w, r.load_ohm, r.load_ohm);
        self.amplifier.clone().or_else(|| self.gives.map(rated))
    }
}

fn base(begin: &Begin) -> Option<Design> {
    let woofer = begin.woofer.as_ref()?;
    let brief = Brief { budget: begin.budget, ..begin.purpose.map_or_else(Brief::default, |p| p.info().brief()) };
    let plain = json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION,
        "woofer": woofer, "enclosure": {"family": "sealed", "net_volume_l": 50}});
    let mut design = oak_drum_document::read_value(plain).ok()?.into_design();
    design.brief = brief;
    if let Some(amplifier) = begin.amplifier() {
        // at what it gives: then the findings speak of what will be heard
        design.drive = Drive::Voltage { volts: (amplifier.volts() * 10.0).round() / 10.0 };
        design.chain.amplifier = Some(amplifier);
    }
    Some(design)
}

/// The families that are tried: what a first box is built as.
const FAMILIES: [&str; 2] = ["sealed", "vented"];

/// Areas of the port that are tried beside the suggested one, as shares of the cone's (common practice: up to a third).
const OPENINGS: [f64; 3] = [0.12, 0.2, 0.33];

/// The same vented box with wider tubes, their ends flared alike.
fn opened(start: &Enclosure, cone_m2: f64) -> Vec<Enclosure> {
    let Enclosure::Vented(usual) = start else { return Vec::new() };
    let wider = OPENINGS.iter().map(|share| {
        let diameter_mm = (2e3 * (share * cone_m2 / PI).sqrt()).round();
        let end = End::Flared { radius_mm: (0.12 * diameter_mm).round().max(1.0) };
        let mut wider = usual.clone();
        wider.port.section = Section::Round { diameter_mm };
        (wider.port.inner_end, wider.port.outer_end) = (end, end);
        Enclosure::Vented(wider)
    });
    wider.collect()
}

/// A port may be heard so much before its end: two decibels of level are hardly missed, and a quieter one can want twice the box.
const HEARD: f64 = 1.25;

/// Whether the air of no port is much heard, at what it is driven with and at the most that stroke, heat and amplifier allow.
fn quiet(design: &Checked) -> bool {
    let analysis = Analysis::of(design);
    let mut air = analysis.wired.ports.iter().filter_map(|port| air_speed(&analysis, port));
    let over = |a: AirSpeed| a.at_most_m_per_s.unwrap_or(0.0).max(a.at_drive_m_per_s) > HEARD * a.limit_m_per_s;
    !air.any(over)
}

/// The design with another enclosure.
fn with(base: &Design, enclosure: &Enclosure) -> Option<Checked> {
    Checked::assembled(Design { enclosure: enclosure.clone(), ..base.clone() })
}

/// The best box for a wish. The loudest counts its port's air in its level; of the others the best whose port stays quiet as it is
/// driven, and where none does the one that plays loudest for its size, twice the size for six decibels.
fn best(starts: &[Enclosure], driven: &Design, wish: &Seek, better: fn(&Trade, &Trade) -> bool) -> Option<Trade> {
    let found: Vec<Trade> =
        starts.par_iter().filter_map(|enclosure| seek_best(&with(driven, enclosure)?, wish).ok()).collect();
    let first = |list: Vec<Trade>, by: fn(&Trade, &Trade) -> bool| {
        list.into_iter().reduce(|a, b| if by(&b, &a) { b } else { a })
    };
    if wish.reach == Reach::Loudest {
        return first(found, better);
    }
    let worth = |t: &Trade| t.measures.loudest_db - 20.0 * t.measures.outside_l.log10();
    let (still, heard): (Vec<Trade>, Vec<Trade>) =
        found.into_iter().partition(|t| with(driven, &t.enclosure).is_some_and(|d| quiet(&d)));
    first(still, better).or_else(|| heard.into_iter().max_by(|a, b| worth(a).total_cmp(&worth(b))))
}

/// Begins.
///
/// # Errors
/// What is wrong with the woofer, in a sentence.
pub fn begin(begin: &Begin) -> Result<Begun, Text> {
    let wrong = || {
        Text::from(
            "this woofer's sheet states too little to work a box out: fs, Qes, Qms, Vas, Re and Sd, or what they follow from",
        )
    };
    let base = base(begin).ok_or_else(wrong)?;
    let checked = Checked::assembled(base.clone()).ok_or_else(wrong)?;
    let suggested = suggest(&checked);
    // worked out where the sheet leaves it to follow
    let cone_m2 = Analysis::of(&checked).context.array.motor.sd;
    let starts: Vec<Enclosure> = FAMILIES
        .iter()
        .filter_map(|id| suggested.iter().filter_map(|s| s.enclosure.clone()).find(|e| e.info().id == *id))
        .flat_map(|start| [opened(&start, cone_m2), vec![start]].concat())
        .collect();
    let note = base.brief.lowest_note_hz.unwrap_or(USUAL_NOTE);
    let wish = |reach: Reach, at: f64, outside_l: Option<f64>| Seek {
        reach,
        volume_l: None,
        outside_l,
        length_mm: None,
        delay_ms: None,
        port_fits: true,
        lowest_note_hz: at,
    };
    let space_l = begin.space.map(|s| s.width_mm * s.height_mm * s.depth_mm * 1e-6);
    let mut out = Begun { boxes: Vec::new(), reasons: Vec::new(), left_out: Vec::new() };
    if let Some(purpose) = begin.purpose {
        out.reasons = purpose.info().reasons();
    }
    // without an amplifier the smallest box would be the loudest, and no port wide enough: any power would move its cone
    let limited = base.woofer.xmax_mm.is_some() || base.woofer.power_w.is_some();
    let mut driven = base.clone();
    if limited && driven.chain.amplifier.is_none() {
        let likely = likely_amplifier(&Analysis::of(&checked));
        out.reasons.push(
            format!(
                "Loud and how wide a port is are reckoned with {:.0} W into {:.0} ohm, the likely amplifier; none is stated.",
                likely.power_w, likely.load_ohm
            )
            .into(),
        );
        driven.chain.amplifier = Some(likely);
    }
    // the smallest, at the note or as near above it as this woofer comes
    let small = HIGHER.iter().find_map(|by| {
        let made = best(&starts, &driven, &wish(Reach::Smallest, note * by, space_l), |a, b| {
            a.measures.outside_l < b.measures.outside_l
        });
        made.map(|trade| (note * by, trade))
    });
    if small.is_none() {
        out.left_out.push(format!("No box of this woofer has its f3 near {note:.0} Hz in that size: another woofer, two of them, or a higher note.").into());
    }
    let most = space_l.or(small.as_ref().map(|(_, s)| LARGER * s.measures.outside_l));
    let deep = best(&starts, &driven, &wish(Reach::LowestF3, note, most), |a, b| {
        a.measures.f3_hz.unwrap_or(f64::INFINITY) < b.measures.f3_hz.unwrap_or(f64::INFINITY)
    });
    let loud = if limited {
        let found = best(&starts, &driven, &wish(Reach::Loudest, note, most), |a, b| {
            a.measures.loudest_db > b.measures.loudest_db
        });
        if found.as_ref().is_some_and(|t| t.measures.f3_hz.is_none_or(|f| f > NO_BASS * note)) {
            out.left_out.push(
                format!("The loudest box at {note:.0} Hz plays hardly any of it at low levels: it is left out.").into(),
            );
        }
        found.filter(|t| t.measures.f3_hz.is_some_and(|f| f <= NO_BASS * note))
    } else {
        out.left_out.push("The loudest box is left out: the sheet states neither Xmax nor what the coil takes.".into());
        None
    };
    let within = match (begin.space, most) {
        (Some(_), Some(l)) => format!("in the {:.0} that may stand there", litres(l)),
        (None, Some(l)) => format!("in at most {:.0}", litres(l)),
        _ => "of any size".into(),
    };
    let all = [
        (
            "small",
            "Small",
            small.map(|(at, trade)| {
                let why = if at > note * 1.01 {
                    format!("The smallest that plays {at:.0} Hz; {note:.0} Hz it does not reach.")
                } else {
                    format!("The smallest that still plays {at:.0} Hz at half power.")
                };
                (why, trade)
            }),
        ),
        ("deep", "Deep", deep.map(|trade| (format!("As low as it goes {within}."), trade))),
        ("loud", "Loud", loud.map(|trade| (format!("As loud as it goes at {note:.0} Hz {within}."), trade))),
    ];
    for (id, title, found) in all {
        let Some((why, trade)) = found else { continue };
        let twin = out.boxes.iter().find(|b| alike(&b.design.enclosure, &trade.enclosure)).map(|b| b.title.clone());
        if let Some(twin) = twin {
            out.left_out.push(format!("{title} is the same box as {twin}.").into());
            continue;
        }
        match boxed(begin, &base, &driven, &trade, title) {
            Ok((design, cabinet)) => {
                let m = &trade.measures;
                let f3 = m.f3_hz.map_or("f3 out of reach".to_owned(), |f| format!("f3 {f:.0} Hz"));
                let loud = if limited { format!(", {:.0} dB at {note:.0} Hz", m.loudest_db) } else { String::new() };
                let sentence = format!(
                    "{why} {}, {:.0} of air, {f3}{loud}. {cabinet}",
                    trade.enclosure.info().title,
                    litres(m.volume_l)
                );
                out.boxes.push(BegunBox { id: id.into(), title: title.into(), sentence: sentence.into(), design });
            }
            Err(why) => out.left_out.push(format!("{title}: {why}").into()),
        }
    }
    Ok(out)
}

/// Whether two boxes are one to a builder: within three per cent in every figure and the width of the tube.
fn alike(a: &Enclosure, b: &Enclosure) -> bool {
    let figures = |e: &Enclosure| -> Vec<f64> {
        let document = serde_json::to_value(e).unwrap_or_default();
        let tube = "/port/section/diameter_mm";
        e.knobs().iter().map(|k| k.pointer).chain([tube]).filter_map(|at| document.pointer(at)?.as_f64()).collect()
    };
    let (x, y) = (figures(a), figures(b));
    a.info().id == b.info().id && x.len() == y.len() && x.iter().zip(&y).all(|(x, y)| (x / y - 1.0).abs() < 0.03)
}

/// What a box is, in words that hold whatever is changed of its size.
fn kept_as(title: &str) -> &'static str {
    match title {
        "Small" => "the smallest that plays the lowest note, or the nearest this woofer comes to it",
        "Deep" => "as low as it goes in the size that may stand there",
        _ => "as loud as it goes at the lowest note in the size that may stand there",
    }
}

/// The design of a box, in a cabinet that holds it; of a stated space one that goes in, or none.
fn boxed(begin: &Begin, base: &Design, driven: &Design, trade: &Trade, title: &str) -> Result<(Design, String), Text> {
    let mut design = Design { enclosure: trade.enclosure.clone(), name: title.into(), ..base.clone() };
    // why it is there stays with it
    let purpose = format!("{} {title}: {}.", design.brief.purpose, kept_as(title));
    design.brief.purpose = purpose.trim().to_owned();
    let checked = Checked::assembled(design.clone()).ok_or_else(|| Text::from("it is no design"))?;
    let forms = match begin.space {
        Some(s) => vec![Form::Within { width_mm: s.width_mm, height_mm: s.height_mm, depth_mm: s.depth_mm }],
        None => vec![Form::Balanced, Form::AsWideAsWoofer, Form::Slim, Form::Squat],
    };
    let mut made = Err(Text::default());
    for form in &forms {
        made = from_box(&checked, form);
        if made.is_ok() {
            break;
        }
    }
    match made {
        Ok(made) => {
            let mut document = serde_json::to_value(&design).map_err(|e| Text::from(e.to_string()))?;
            let mut changes = made.changes;
            if matches!(begin.sawn_by, Some(SawnBy::Shop | SawnBy::HandSaw)) {
                // the shop's first cuts leave pieces that can be carried
                let carried = json!({"length_mm": 1220, "width_mm": 610});
                changes.push(Change::set("/cabinet/saw/carried", carried));
            }
            apply(&mut document, &changes);
            let read = read_current(document).map_err(|_| Text::from("its cabinet does not read"))?;
            let mut told = made.title.to_string() + ".";
            if with(driven, &read.enclosure).is_some_and(|d| !quiet(&d)) {
                told += " Its port is heard when all is asked of it: no wider one goes.";
            }
            Ok((read.into_design(), told))
        }
        Err(why) if begin.space.is_some() => Err(why),
        Err(_) => Ok((design, "No cabinet yet: state its outside.".into())),
    }
}

/// The woofer of a shelf that does best for a wish, closed or vented, and why it was taken; none where none could be worked out.
pub fn picked(wish: &Begin, shelf: &[Woofer]) -> Option<(Woofer, Text)> {
    let brief = wish.purpose.map_or_else(Brief::default, |p| p.info().brief());
    let goal: Goal = serde_json::from_value(json!({
        "lowest_note_hz": brief.lowest_note_hz.unwrap_or(USUAL_NOTE),
        "level_db": brief.level_db.unwrap_or(95.0),
        "distance_m": brief.distance_m.unwrap_or(2.0),
        "largest_outside_l": wish.space.map_or(10_000.0, |s| (s.width_mm * s.height_mm * s.depth_mm * 1e-6).clamp(1.0, 10_000.0)),
    }))
    .ok()?;
    let goal = Goal { chain: oak_drum_document::Chain { amplifier: wish.amplifier(), ..goal.chain }, ..goal };
    let families: Vec<String> = FAMILIES.iter().map(|f| (*f).to_owned()).collect();
    let tried = shelf.iter().filter_map(|w| {
        let outcomes = run(&goal, w, &[1], &families);
        let best = outcomes
            .into_iter()
            .filter_map(|o| Some((o.verdict, o.cost_db?)))
            .min_by(|a, b| a.0.cmp(&b.0).then(a.1.total_cmp(&b.1)))?;
        Some((w, best))
    });
    let (best, (verdict, _)) = tried.min_by(|a, b| a.1.0.cmp(&b.1.0).then(a.1.1.total_cmp(&b.1.1)))?;
    let short = if verdict == Verdict::Meets { "" } else { "; it falls short of the level all the same" };
    let why = format!("{} of {} on the shelf, as the one that does best for it{short}.", best.name, shelf.len());
    Some((best.clone(), why.into()))
}
