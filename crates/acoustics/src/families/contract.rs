//! What a family of enclosures is to the rest of the program: what it says of itself, what it is wired from and into, what it
//! offers; and what several families share.

use crate::air::Air;
use crate::driver::Array;
use crate::families::inside::Inside;
use crate::families::radiators::Radiators;
pub use crate::fault::Fault;
use crate::fill::{FibreModel, Fill};
use crate::network::diaphragm::Diaphragm;
use crate::network::volume::Volume;
use crate::network::{Network, Node};
use crate::path::{MouthModel, MouthPlace, Path};
use crate::port::{End, Port, Section, Sizing};
use crate::source::Source;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// What a family says about itself.
#[derive(Clone, Copy, Debug, Serialize)]
pub struct Info {
    /// The tag in the document.
    pub id: &'static str,
    /// The field's name for it.
    pub title: &'static str,
    /// One sentence for a first-time builder.
    pub summary: &'static str,
    /// Where its model comes from.
    pub source: &'static str,
    /// How trying the shelf searches it ([`Family::axes`]).
    pub searched: Searched,
}

/// How long it takes to find the best box of a family for a woofer.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Searched {
    /// It is not searched.
    Never,
    /// A box or two, each worked out at once.
    Quickly,
    /// A path, or two tuned chambers: some times as long.
    Slowly,
}

/// What a family is wired from.
#[derive(Clone, Debug)]
pub struct Context {
    /// The air.
    pub air: Air,
    /// The air in which sheets state a volume as stiff as a suspension (of passive radiators; the woofers' is turned into
    /// `air` already).
    pub stated: Air,
    /// The woofers.
    pub array: Array,
    /// What drives the woofers.
    pub source: Source,
    /// Air speed (m/s, peak) a port may reach, in place of the quiet limit of its ends.
    pub air_limit: Option<f64>,
    /// A standing wave left out of every chamber (half waves across, up, behind), to learn what it does.
    pub left_out: Option<[u32; 3]>,
}

impl Context {
    /// Quiet ports, every standing wave counted, sheets stated in the same air.
    pub fn new(air: Air, array: Array, source: Source) -> Context {
        Context { air, stated: air, array, source, air_limit: None, left_out: None }
    }
    /// Total Q of the woofers with the resistance of what drives them.
    pub fn qts(&self) -> f64 {
        self.array.qts_with_source(self.source.resistance_at(self.array.ts.fs))
    }

    /// The driven diaphragm of this context.
    pub fn diaphragm(&self) -> Diaphragm {
        Diaphragm { motor: self.array.motor, source: self.source.clone(), pairing: self.array.pairing }
    }
}

/// A figure that sums a design up.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Figure {
    /// Stable name, with its unit.
    pub id: String,
    /// The field's symbol or name.
    pub label: String,
    /// Value.
    pub value: f64,
    /// Unit; empty for a plain number.
    pub unit: String,
    /// One sentence: what it is.
    pub help: String,
}

impl Figure {
    /// A figure from its parts.
    pub fn new(id: &str, label: &str, value: f64, unit: &str, help: &str) -> Figure {
        Figure { id: id.into(), label: label.into(), value, unit: unit.into(), help: help.into() }
    }
}

/// Which of a box's chambers one is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum ChamberRole {
    /// The only one.
    #[default]
    Only,
    /// Behind the cone, of two.
    Rear,
    /// In front of it, of two.
    Front,
}

impl ChamberRole {
    /// What a chamber of this role is called.
    pub fn title(self) -> &'static str {
        match self {
            ChamberRole::Only => "Box",
            ChamberRole::Rear => "Rear chamber",
            ChamberRole::Front => "Front chamber",
        }
    }

    /// What a port of such a chamber is called.
    pub fn port(self) -> &'static str {
        match self {
            ChamberRole::Only => "port",
            ChamberRole::Rear => "rear port",
            ChamberRole::Front => "front port",
        }
    }
}

/// What the woofers of a family stand on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Stands {
    /// A wall of the cabinet.
    InWall,
    /// A board between two chambers.
    BetweenChambers,
    /// Where its path is folded, the board between its closed chamber and the path; else a wall.
    AtThroat,
    /// Where its path is folded, the board between the first segment and the last; else a wall.
    OnDivider,
}

/// A chamber of the wired box.
#[derive(Clone, Debug, PartialEq)]
pub struct Chamber {
    /// Which one it is.
    pub role: ChamberRole,
    /// Place of its net volume in the family's part of the document (JSON pointer); empty where it follows from other
    /// sizes.
    pub pointer: &'static str,
    /// Net air volume wanted, m³.
    pub net: f64,
    /// By how much the fill makes it act larger, at its resonance.
    pub fill_factor: f64,
    /// Its fill, for the findings; given by mass, it is packed by density here.
    pub fill: Fill,
    /// The volume the fill takes, m³.
    pub filled: f64,
    /// Its inside, where it has standing waves.
    pub inside: Option<Inside>,
    /// The area of the port or radiator in it, m².
    pub opening: Option<f64>,
    /// Its own resonance, where its losses belong, Hz: with the woofer where it is closed, with its port or radiator alone
    /// where it is tuned; 0 where it has none.
    pub resonance: f64,
}

impl Chamber {
    /// An empty one whose volume (m³) follows from other sizes.
    pub fn plain(net: f64) -> Chamber {
        Chamber {
            role: ChamberRole::Only,
            pointer: "",
            net,
            fill_factor: 1.0,
            fill: Fill::None,
            filled: 0.0,
            inside: None,
            opening: None,
            resonance: 0.0,
        }
    }

    /// What it is called: "Box", "Rear chamber", "Front chamber".
    pub fn title(&self) -> &'static str {
        self.role.title()
    }

    /// Place of a part of this chamber in the family's part of the document: "inside", "fill".
    pub fn part(&self, name: &str) -> String {
        let stem = self.pointer.trim_end_matches("volume_l").trim_end_matches("net_");
        format!("{stem}{name}")
    }
}

/// A port of the wired box.
#[derive(Clone, Debug)]
pub struct PortReport {
    /// Place of the port in the family's part of the document (JSON pointer).
    pub pointer: &'static str,
    /// The chamber it belongs to.
    pub role: ChamberRole,
    /// Whether it leads outside; else into another chamber.
    pub outside: bool,
    /// The port as designed.
    pub port: Port,
    /// The port as worked out.
    pub realised: crate::port::Realised,
    /// Which of the network's radiators it is.
    pub radiator: usize,
}

/// A line or horn of the wired box.
#[derive(Clone, Debug)]
pub struct PathReport {
    /// The path.
    pub path: Path,
    /// Where the woofer looks in (m, in order), and at which node of the network.
    pub taps: Vec<(f64, Node)>,
    /// What stands around its open end.
    pub mouth: MouthPlace,
    /// How its open end is computed.
    pub model: MouthModel,
}

/// Something worth seeing on the frequency axis.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Mark {
    /// Where, Hz.
    pub frequency_hz: f64,
    /// A short name.
    pub label: String,
    /// What it is, in a sentence.
    pub help: String,
}

impl Mark {
    /// A mark from its parts.
    pub fn new(frequency: f64, label: String, help: &str) -> Mark {
        Mark { frequency_hz: frequency, label, help: help.into() }
    }
}

/// A value at hand for a field, with the tuning it gives (weights on a passive radiator).
#[derive(Clone, Debug, PartialEq)]
pub struct Step {
    /// Place of the field in the family's part of the document (JSON pointer).
    pub pointer: &'static str,
    /// The value.
    pub value: f64,
    /// In words.
    pub title: String,
    /// The tuning it gives, Hz.
    pub tuning: f64,
}

/// A number of a family that may be turned when a goal is sought.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct Knob {
    /// Place in the family's part of the document (JSON pointer); passed over where a design does not have it.
    pub pointer: &'static str,
    /// Least value (> 0).
    pub low: f64,
    /// Greatest value.
    pub high: f64,
}

/// A family's wiring with what it knows about itself.
#[derive(Debug)]
pub struct Wired {
    /// The network.
    pub network: Network,
    /// Telling figures, the most telling first.
    pub figures: Vec<Figure>,
    /// Chambers, the one behind the cone first.
    pub chambers: Vec<Chamber>,
    /// Ports.
    pub ports: Vec<PortReport>,
    /// Frequency below which the cone is no longer held by the box, Hz, where the family has one.
    pub unloads_below: Option<f64>,
    /// What is worth seeing on the frequency axis besides the tunings of the ports.
    pub marks: Vec<Mark>,
    /// Values at hand with the tuning each gives.
    pub steps: Vec<Step>,
    /// Whether it plays in a band of its own, with edges above and below.
    pub bandpass: bool,
    /// Whether the bare woofer's efficiency is what its level is measured by; else (bands, horns, dipoles) its own
    /// highest level is.
    pub measured_by_efficiency: bool,
    /// The line or horn.
    pub path: Option<PathReport>,
    /// What of it is an estimate, in a sentence.
    pub estimate: Option<&'static str>,
}

impl Wired {
    /// A network about which nothing is known yet.
    pub fn new(network: Network) -> Wired {
        Wired {
            network,
            figures: Vec::new(),
            chambers: Vec::new(),
            ports: Vec::new(),
            unloads_below: None,
            marks: Vec::new(),
            steps: Vec::new(),
            bandpass: false,
            measured_by_efficiency: true,
            path: None,
            estimate: None,
        }
    }
}

/// A starting point a family offers for a woofer.
#[derive(Clone, Debug, PartialEq)]
pub struct Start<F> {
    /// Stable name.
    pub id: String,
    /// Short name, with its figure.
    pub title: String,
    /// What it is for and what it costs.
    pub sentence: String,
    /// The enclosure it would make; absent when this woofer cannot do it.
    pub enclosure: Option<F>,
}

/// One thing a search for the best box may choose, between two bounds and in the logarithm.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Axis {
    /// What it is, with its unit.
    pub id: &'static str,
    /// Least value (> 0).
    pub low: f64,
    /// Greatest value.
    pub high: f64,
}

/// What a search for the best box is after.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Wish {
    /// The lowest note, Hz.
    pub lowest_note: f64,
    /// Most air there can be inside, m³.
    pub largest_net: f64,
}

/// A family of enclosures.
pub trait Family: Sized {
    /// What it says about itself.
    const INFO: Info;
    /// Wires the network.
    fn wire(&self, context: &Context) -> Wired;
    /// Starting points for these woofers, the plainest first.
    fn suggestions(context: &Context) -> Vec<Start<Self>>;
    /// What is wrong with it that only several fields together can tell.
    fn problems(&self) -> Vec<Fault> {
        Vec::new()
    }
    /// What its woofers stand on.
    const STANDS: Stands = Stands::InWall;
    /// Net volume (L) and stated inside, where it has one chamber.
    fn one_chamber(&mut self) -> Option<(&mut f64, &mut Option<Inside>)> {
        None
    }
    /// Net volume of the chamber in front of the woofers, L.
    fn front_volume_l(&self) -> Option<f64> {
        None
    }
    /// Air before a path begins, which is no part of it, L.
    fn head_l(&self) -> Option<f64> {
        None
    }
    /// Its passive radiators.
    fn radiators(&self) -> Option<&Radiators> {
        None
    }
    /// What may be turned when a goal is sought.
    fn knobs() -> &'static [Knob] {
        &[]
    }
    /// What trying the shelf may choose, what rules the size first; none where the family is not searched.
    fn axes(_context: &Context, _wish: &Wish) -> Vec<Axis> {
        Vec::new()
    }
    /// The enclosure at a point of the search, one value for each of [`Family::axes`], not rounded, with usual losses.
    fn at(_context: &Context, _values: &[f64]) -> Option<Self> {
        None
    }
}

/// A chamber's compliance element (losses not yet set) from its net volume (m³) and fill.
pub(crate) fn chamber_volume(air: &Air, net: f64, fill: &Fill) -> Volume {
    let (plain, filled) = match fill {
        Fill::None => (net, None),
        Fill::Factor { factor } => (net * factor, None),
        Fill::Fibrous { .. } | Fill::Material { .. } => match fill.fibres() {
            Some((law, sigma, part)) if part > 0.0 => {
                (net * (1.0 - part), Some((net * part, FibreModel::new(law, sigma, *air))))
            }
            _ => (net, None),
        },
    };
    Volume { compliance: air.compliance(plain), filled, absorption: 0.0 }
}

/// Real part of a chamber's compliance at ω (rad/s), m³/Pa: what tunes.
pub(crate) fn real_compliance(volume: &Volume, omega: f64) -> f64 {
    volume.complex_compliance::<num_complex::Complex64>(omega).re
}

/// Real part of the compliance (m³/Pa) at ω (rad/s) of a chamber of `net` m³ with this fill.
pub fn chamber_compliance(air: &Air, net: f64, fill: &Fill, omega: f64) -> f64 {
    real_compliance(&chamber_volume(air, net, fill), omega)
}

/// The fixed point ω of `step` (rad/s), for resonances with a chamber whose fill depends on frequency.
pub(crate) fn fixed_point(start_hz: f64, step: impl Fn(f64) -> f64) -> f64 {
    let mut omega = TAU * start_hz;
    for _ in 0..40 {
        let next = step(omega);
        let still = (next / omega - 1.0).abs() < 1e-14;
        omega = next;
        if still {
            break;
        }
    }
    omega
}

/// A round port of a part of the cone's area, both ends flared, tuned to `tuning` (Hz).
pub(crate) fn usual_port(context: &Context, tuning: f64, share: f64) -> Port {
    let area = context.array.cone_area() * share;
    let diameter = ((4.0 * area / std::f64::consts::PI).sqrt() * 1e3 / 5.0).round().max(4.0) * 5.0;
    let flare = End::Flared { radius_mm: (diameter * 0.12).round().max(2.0) };
    Port {
        inner_end: flare,
        outer_end: flare,
        wall_mm: 4.0,
        ..Port::plain(Section::Round { diameter_mm: diameter }, Sizing::Tuning { tuning_hz: tidy(tuning) })
    }
}

/// The faults of a chamber's inside, where it is stated, and of its fill; `net` is its net volume, L, and `stem` what the
/// names of its fields begin with.
pub(crate) fn chamber_faults(inside: Option<&Inside>, fill: &Fill, net: f64, stem: &str) -> Vec<Fault> {
    let shape = inside.map_or_else(Vec::new, |inside| inside.problems(net));
    let shape = shape.into_iter().map(|(field, message)| Fault::new(format!("{stem}inside/{field}"), message));
    let packing = fill.problems(net, inside.and_then(Inside::lined));
    shape
        .chain(packing.into_iter().map(|(field, message)| Fault::new(format!("{stem}fill/{field}"), message)))
        .collect()
}

/// The faults of a port at a place.
pub(crate) fn port_faults(port: &Port, at: &str) -> impl Iterator<Item = Fault> {
    port.problems().into_iter().map(move |(field, message)| Fault::new(format!("{at}/{field}"), message))
}

/// A suggested figure rounded to three places a builder would write down.
pub(crate) fn tidy(value: f64) -> f64 {
    rounded(value, 3)
}

/// A figure rounded to some significant digits.
pub fn rounded(value: f64, digits: i32) -> f64 {
    let unit = 10f64.powf(value.abs().log10().floor() - f64::from(digits - 1));
    // via the reciprocal, so 48.3 is written 48.3 and not 48.300000000000004
    if unit < 1.0 { (value / unit).round() / (1.0 / unit).round() } else { (value / unit).round() * unit }
}
