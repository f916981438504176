//! A hidden true cabinet: the design of the build, off by amounts the one who measures it does not see.

use crate::analysis::Analysis;
use crate::prove::as_built::AsBuilt;
use crate::prove::unknown::{Unknown, changes};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One thing that is wrong with it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Flaw {
    /// A leak at the terminals.
    #[schemars(title = "A leak")]
    Leak {
        /// Its loss factor.
        #[schemars(title = "QL", range(min = 0.5, max = 1000.0), extend("x-start" = 3))]
        q: f64,
    },
    /// Less or more air than planned.
    #[schemars(title = "Volume off")]
    Volume {
        /// By so much; less is negative.
        #[schemars(title = "By", range(min = -50.0, max = 100.0), extend("x-unit" = "%", "x-start" = -4))]
        percent: f64,
    },
    /// A port longer or shorter than planned.
    #[schemars(title = "Port length off")]
    Port {
        /// By so much; shorter is negative.
        #[schemars(title = "By", range(min = -500.0, max = 500.0), extend("x-unit" = "mm", "x-start" = 12))]
        mm: f64,
    },
    /// A woofer with a stiffer or softer suspension than its sheet has.
    #[schemars(title = "Suspension off")]
    Suspension {
        /// Its fs off by so much.
        #[schemars(title = "fs off by", range(min = -40.0, max = 60.0), extend("x-unit" = "%", "x-start" = 8))]
        fs_percent: f64,
    },
    /// Something rattles.
    #[schemars(title = "A buzz")]
    Buzz {
        /// Where it is set off.
        #[schemars(title = "At", range(min = 15.0, max = 300.0), extend("x-unit" = "Hz", "x-start" = 60))]
        at_hz: f64,
    },
    /// A microphone that loses the lowest octave.
    #[schemars(title = "Microphone sags")]
    Microphone {
        /// 3 dB down there.
        #[schemars(title = "3 dB down at", range(min = 5.0, max = 100.0), extend("x-unit" = "Hz", "x-start" = 25))]
        at_hz: f64,
    },
}

impl Flaw {
    /// In words, without its amount.
    pub fn title(&self) -> &'static str {
        match self {
            Flaw::Leak { .. } => "a leak",
            Flaw::Volume { .. } => "the volume",
            Flaw::Port { .. } => "the port's length",
            Flaw::Suspension { .. } => "the suspension",
            Flaw::Buzz { .. } => "a buzz",
            Flaw::Microphone { .. } => "the microphone",
        }
    }

    /// Whether two are of one kind.
    pub fn same_kind(&self, other: &Flaw) -> bool {
        std::mem::discriminant(self) == std::mem::discriminant(other)
    }
}

/// How hard practice is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Difficulty {
    /// One thing, and plainly wrong.
    #[default]
    Plain,
    /// Two things.
    Mixed,
    /// Three smaller things, one of them perhaps not the cabinet's.
    Hard,
}

impl Difficulty {
    /// Its name, as it is kept.
    pub fn name(self) -> &'static str {
        match self {
            Difficulty::Plain => "plain",
            Difficulty::Mixed => "mixed",
            Difficulty::Hard => "hard",
        }
    }
}

/// Flaws drawn for a build by a seed: the same seed draws the same.
pub fn drawn(built: &AsBuilt, seed: u32, difficulty: Difficulty) -> Vec<Flaw> {
    // a seed must tell nothing to the eye: neighbours draw nothing alike
    let mut random = fastrand::Rng::with_seed(u64::from(seed).wrapping_mul(0x9E37_79B9_7F4A_7C15));
    let size = match difficulty {
        Difficulty::Plain => 1.0,
        Difficulty::Mixed => 0.8,
        Difficulty::Hard => 0.55,
    };
    let mut within = |low: f64, high: f64| low + (high - low) * random.f64();
    let mut signed = |low: f64, high: f64| {
        let amount = within(low, high) * size;
        if within(0.0, 1.0) < 0.5 { -amount } else { amount }
    };
    let leak = signed(0.0, 1.0).abs();
    let volume = signed(4.0, 10.0);
    let port = signed(0.07, 0.16);
    let fs = signed(6.0, 14.0);
    let buzz = 35.0 + 70.0 * leak;
    let sag = 14.0 + 10.0 * leak;
    let rounded = |x: f64| (x * 10.0).round() / 10.0;
    let has = |unknown: Unknown| unknown.start(built).is_some();
    let mut list = Vec::new();
    if has(Unknown::Leak) {
        list.push(Flaw::Leak { q: rounded(2.0 + 2.5 * leak) });
    }
    if has(Unknown::Volume) {
        list.push(Flaw::Volume { percent: rounded(volume) });
    }
    if has(Unknown::Port) {
        let index = built.analysis.wired.ports.iter().position(|p| p.outside).unwrap_or(0);
        let (own, acting) = built.port_lengths(index).unwrap_or((0.1, 0.1));
        // not shorter than half of what there is
        list.push(Flaw::Port { mm: (acting * port * 1e3).max(-own * 500.0).round() });
    }
    list.push(Flaw::Suspension { fs_percent: rounded(fs) });
    list.push(Flaw::Buzz { at_hz: buzz.round() });
    if difficulty == Difficulty::Hard {
        list.push(Flaw::Microphone { at_hz: sag.round() });
    }
    let count = match difficulty {
        Difficulty::Plain => 1,
        Difficulty::Mixed => 2,
        Difficulty::Hard => 3,
    };
    random.shuffle(&mut list);
    list.truncate(count);
    list
}

/// The cabinet with its flaws, worked out; `None` where one is impossible for it.
pub fn flawed(built: &AsBuilt, flaws: &[Flaw]) -> Option<Analysis> {
    let mut values = Vec::new();
    for flaw in flaws {
        match *flaw {
            Flaw::Leak { q } => values.push((Unknown::Leak, q)),
            Flaw::Volume { percent } => values.push((Unknown::Volume, 1.0 + percent / 100.0)),
            Flaw::Port { mm } => {
                let index = built.analysis.wired.ports.iter().position(|p| p.outside)?;
                let acting = built.port_lengths(index)?.1;
                values.push((Unknown::Port, 1.0 + mm * 1e-3 / acting));
            }
            Flaw::Suspension { fs_percent } => {
                values.push((Unknown::Suspension, (1.0 + fs_percent / 100.0).powi(-2)));
            }
            Flaw::Buzz { .. } | Flaw::Microphone { .. } => {}
        }
    }
    built.with(&changes(built, &values)?)
}
