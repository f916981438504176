//! A quantity of a kind that is said otherwise where one builds in inches.

use crate::System;
use crate::inches::{INCH, nearest};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::fmt::{self, Display, Formatter};

/// What a quantity is counted in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub enum Unit {
    /// Millimetres; in inches with a fraction.
    #[serde(rename = "mm")]
    Mm,
    /// Millimetres on a drawing or in a cut list, where the unit goes without saying; inches with their mark.
    #[serde(rename = "size")]
    Size,
    /// Millimetres a cone travels; in decimal inches, since a 32nd is much of it.
    #[serde(rename = "travel")]
    Travel,
    /// Metres; in feet.
    #[serde(rename = "m")]
    M,
    /// Square millimetres; in square inches.
    #[serde(rename = "mm2")]
    Mm2,
    /// Square centimetres; in square inches.
    #[serde(rename = "cm2")]
    Cm2,
    /// Square metres; in square feet.
    #[serde(rename = "m2")]
    M2,
    /// Litres; in cubic feet, small ones in cubic inches.
    #[serde(rename = "L")]
    L,
    /// Kilograms; in pounds.
    #[serde(rename = "kg")]
    Kg,
    /// Millimetres of a drill bit or of a router bit; in 64ths of an inch, as they are sold.
    #[serde(rename = "drill")]
    Drill,
    /// A wood screw's diameter and length in millimetres; its gauge number and inches.
    #[serde(rename = "screw")]
    Screw,
    /// A machine screw's diameter and length in millimetres; its unified coarse thread and inches.
    #[serde(rename = "bolt")]
    Bolt,
    /// Square millimetres of a wire; the nearest even American gauge.
    #[serde(rename = "wire")]
    Wire,
}

/// Every unit with its name in files and in print.
const UNITS: [(Unit, &str, &str); 13] = [
    (Unit::Travel, "travel", "mm"),
    (Unit::Mm, "mm", "mm"),
    (Unit::Size, "size", ""),
    (Unit::M, "m", "m"),
    (Unit::Mm2, "mm2", "mm²"),
    (Unit::Cm2, "cm2", "cm²"),
    (Unit::M2, "m2", "m²"),
    (Unit::L, "L", "L"),
    (Unit::Kg, "kg", "kg"),
    (Unit::Drill, "drill", "mm"),
    (Unit::Screw, "screw", "mm"),
    (Unit::Bolt, "bolt", ""),
    (Unit::Wire, "wire", "mm²"),
];

impl Unit {
    /// Its name in files.
    pub fn name(self) -> &'static str {
        self.entry().1
    }
    /// Its name in print.
    fn print(self) -> &'static str {
        self.entry().2
    }
    fn entry(self) -> &'static (Unit, &'static str, &'static str) {
        UNITS.iter().find(|u| u.0 == self).unwrap_or(&UNITS[0])
    }
    /// The unit of a name in files.
    pub fn named(name: &str) -> Option<Unit> {
        Some(UNITS.iter().find(|u| u.1 == name)?.0)
    }
}

/// One value or several that are told together, "400 x 600 x 450 mm". In `format!` its precision is the metric text's decimals; without
/// one a value is told as it is.
#[derive(Clone, Debug, PartialEq)]
pub struct Quantity {
    /// The values.
    pub values: Vec<f64>,
    /// What they are counted in.
    pub unit: Unit,
}

/// One value, or the sides of something.
pub trait Values {
    /// The values in their order.
    fn values(self) -> Vec<f64>;
}

impl Values for f64 {
    fn values(self) -> Vec<f64> {
        vec![self]
    }
}

impl<const N: usize> Values for [f64; N] {
    fn values(self) -> Vec<f64> {
        self.to_vec()
    }
}

macro_rules! units {
    ($($(#[$doc:meta])* $name:ident $unit:ident;)*) => {
        $($(#[$doc])* pub fn $name(values: impl Values) -> Quantity {
            Quantity { values: values.values(), unit: Unit::$unit }
        })*
    };
}

units! {
    /// Millimetres: one length, or the sides of something.
    mm Mm;
    /// Millimetres on a drawing or in a cut list, where the unit goes without saying.
    size Size;
    /// Millimetres a cone travels.
    travel Travel;
    /// Metres.
    metres M;
    /// Square millimetres.
    square_mm Mm2;
    /// Square centimetres.
    square_cm Cm2;
    /// Square metres.
    square_metres M2;
    /// Litres.
    litres L;
    /// Kilograms.
    kg Kg;
    /// Millimetres of a drill or router bit.
    drill Drill;
    /// A wood screw: diameter and length, mm.
    screw Screw;
    /// A machine screw: diameter and length, mm.
    bolt Bolt;
    /// A wire's section, mm².
    wire Wire;
}

impl Display for Quantity {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        let say = |system| say(&self.values, self.unit, f.precision(), f.sign_plus(), system);
        let said = Said {
            values: self.values.iter().map(|v| six_digits(*v)).collect(),
            unit: self.unit,
            metric: say(System::Metric),
            inch: say(System::Inch),
        };
        said.fmt(f)
    }
}

/// A quantity as it is said.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Said {
    /// The values, one or the sides of something, to six digits.
    pub values: Vec<f64>,
    /// What they are counted in.
    pub unit: Unit,
    /// How one says it who builds in millimetres.
    pub metric: String,
    /// How one says it who builds in inches.
    pub inch: String,
}

/// Before a quantity in a string, between its fields, and behind it: characters of private use, which no keyboard makes.
pub(crate) const OPEN: char = '\u{E0D0}';
pub(crate) const FIELD: char = '\u{E0D1}';
pub(crate) const CLOSE: char = '\u{E0D2}';

impl Display for Said {
    /// The quantity between marks.
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        write!(f, "{OPEN}{}{FIELD}{}{FIELD}{}", self.unit.name(), self.metric, self.inch)?;
        for value in &self.values {
            write!(f, "{FIELD}{value}")?;
        }
        write!(f, "{CLOSE}")
    }
}

impl Said {
    /// What stands between two marks.
    pub(crate) fn between(inside: &str) -> Option<Said> {
        let mut fields = inside.split(FIELD);
        let unit = Unit::named(fields.next()?)?;
        let (metric, inch) = (fields.next()?.to_owned(), fields.next()?.to_owned());
        let values = fields.map(|v| v.parse().ok()).collect::<Option<Vec<f64>>>().filter(|v| !v.is_empty())?;
        Some(Said { values, unit, metric, inch })
    }
}

/// A number with six significant digits, which is nearer than anything is built.
fn six_digits(value: f64) -> f64 {
    format!("{value:.5e}").parse().unwrap_or(value)
}

/// A number with at most three significant digits, without zeros at its end.
fn three(value: f64) -> String {
    if value == 0.0 {
        return "0".into();
    }
    let decimals = (2 - value.abs().log10().floor() as i32).clamp(0, 6) as usize;
    let text = format!("{value:.decimals$}");
    let power = 10f64.powi((value.abs().log10().floor() as i32 - 2).max(0));
    if power > 1.0 {
        return format!("{:.0}", (value / power).round() * power);
    }
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}

/// Under this many inches a length is told in decimals: what a saw leaves is not counted in 32nds.
const DECIMAL_UNDER: f64 = 0.125;

/// A length in inches: with the nearest fraction of 32nds, small ones with three decimals.
fn inches(mm: f64) -> String {
    let long = mm.abs() / INCH;
    let sign = if mm < 0.0 { "-" } else { "" };
    if mm == 0.0 {
        "0".into()
    } else if long < DECIMAL_UNDER {
        format!("{sign}{long:.3}")
    } else {
        let text = nearest(mm.abs(), 32).to_string();
        format!("{sign}{}", text.trim_end_matches(" in"))
    }
}

/// A litre in cubic feet.
const CUBIC_FEET: f64 = 1.0 / 28.316_846_592;
/// Volumes under this many cubic feet are told in cubic inches.
const CUBIC_INCHES_UNDER: f64 = 0.1;

/// The gauge number of a wood screw as they are sold: its shank is 0.060 in and 0.013 in for each number (ASME B18.6.1).
fn screw_gauge(mm: f64) -> f64 {
    const SOLD: [f64; 6] = [4.0, 6.0, 8.0, 10.0, 12.0, 14.0];
    let exact = (mm / INCH - 0.060) / 0.013;
    SOLD.into_iter().min_by(|a, b| (a - exact).abs().total_cmp(&(b - exact).abs())).unwrap_or(exact)
}

/// The unified coarse thread nearest to a machine screw's diameter (ASME B1.1: no. 8 is 0.164 in, no. 10 is 0.190 in).
fn unified(mm: f64) -> &'static str {
    const THREADS: [(f64, &str); 6] = [
        (2.84, "no. 4-40"),
        (3.51, "no. 6-32"),
        (4.17, "no. 8-32"),
        (4.83, "no. 10-24"),
        (6.35, "1/4-20"),
        (7.94, "5/16-18"),
    ];
    THREADS.iter().min_by(|a, b| (a.0 - mm).abs().total_cmp(&(b.0 - mm).abs())).map_or("", |t| t.1)
}

/// The even American wire gauge nearest to a section: a gauge n is 0.127 mm · 92^((36 - n)/39) across (ASTM B258).
fn even_gauge(mm2: f64) -> f64 {
    let across = (4.0 * mm2 / std::f64::consts::PI).sqrt();
    let gauge = 36.0 - 39.0 * (across / 0.127).ln() / 92f64.ln();
    2.0 * (gauge / 2.0).round()
}

/// Diameter and length as they are sold in inches: lengths in eighths.
fn sold(values: &[f64], by: fn(f64) -> String, to: fn(f64) -> f64) -> String {
    let mut told = values.first().map_or_else(String::new, |d| by(*d));
    for length in values.iter().skip(1) {
        // a length that is an eighth but for a hair is that eighth
        let eighths = to(length / INCH * 8.0 + if to(0.5) > 0.5 { -0.05 } else { 0.05 });
        told.push_str(&format!(" x {}", nearest(eighths * INCH / 8.0, 8)));
    }
    told
}

/// One or more values of a unit in words.
fn say(values: &[f64], unit: Unit, decimals: Option<usize>, plus: bool, system: System) -> String {
    let signed = |text: String, value: f64| if plus && value >= 0.0 { format!("+{text}") } else { text };
    let joined = |each: &dyn Fn(f64) -> String, unit: &str| {
        let list: Vec<String> = values.iter().map(|v| signed(each(*v), *v)).collect();
        format!("{}{}{unit}", list.join(" x "), if unit.is_empty() { "" } else { " " })
    };
    if system == System::Metric {
        let each = |value: f64| match decimals {
            // a negative zero is a zero
            Some(decimals) => {
                let text = format!("{value:.decimals$}");
                if text.trim_start_matches('-').chars().all(|c| c == '0' || c == '.') {
                    text.trim_start_matches('-').to_owned()
                } else {
                    text
                }
            }
            None => format!("{value}"),
        };
        let text = joined(&each, unit.print());
        return if unit == Unit::Bolt { format!("M{text}") } else { text };
    }
    match unit {
        Unit::Drill => joined(&|v| nearest(v.abs(), 64).to_string().trim_end_matches(" in").to_owned(), "in"),
        Unit::Screw => sold(values, |d| format!("no. {}", screw_gauge(d)), f64::floor),
        Unit::Bolt => sold(values, |d| unified(d).to_owned(), f64::ceil),
        Unit::Wire => joined(&|area| format!("AWG {}", even_gauge(area)), ""),
        Unit::Mm => joined(&inches, "in"),
        Unit::Travel => joined(&|v| format!("{:.3}", v / INCH), "in"),
        Unit::Size => joined(&|v| format!("{}\"", inches(v)), ""),
        Unit::M => joined(&|v| three(v / 0.3048), "ft"),
        Unit::Mm2 => joined(&|v| three(v / (INCH * INCH)), "in²"),
        Unit::Cm2 => joined(&|v| three(v * 100.0 / (INCH * INCH)), "in²"),
        Unit::M2 => joined(&|v| three(v / (0.3048 * 0.3048)), "ft²"),
        Unit::L if values.iter().all(|v| v.abs() * CUBIC_FEET < CUBIC_INCHES_UNDER) => {
            joined(&|v| three(v * 1e6 / INCH.powi(3)), "in³")
        }
        Unit::L => joined(&|v| three(v * CUBIC_FEET), "ft³"),
        Unit::Kg => joined(&|v| three(v / 0.453_592_37), "lb"),
    }
}
