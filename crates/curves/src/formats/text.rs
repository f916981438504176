//! Plain text in columns: frequency, magnitude and phase, as measuring programs and people write it, and CSV with a header.
//!
//! How a file is read is found from what stands in it and told as a [`ColumnReading`] with its reasons, so that a person can correct it
//! and have the file read again.

use crate::curve::{Curve, MOST_POINTS, Measurand};
use crate::error::CurveError;
use num_complex::Complex64;
use oak_drum_acoustics::level::P_REF;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use std::fmt::Write;

/// Most columns that are looked at.
pub const MOST_COLUMNS: usize = 32;
/// Lines looked at to find out how a file is read.
const LOOKED_AT: usize = 300;
/// Rows shown of a file.
const SHOWN: usize = 8;

/// What stands between two columns.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Separator {
    /// A comma.
    Comma,
    /// A semicolon.
    Semicolon,
    /// A tab.
    Tab,
    /// Any number of spaces or tabs.
    Space,
}

/// What a column holds.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum ColumnRole {
    /// The frequency.
    Frequency,
    /// The magnitude.
    Magnitude,
    /// The phase.
    Phase,
    /// The real part.
    Real,
    /// The imaginary part.
    Imaginary,
    /// Nothing that is read.
    LeftOut,
}

/// What the magnitude is counted in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MagnitudeUnit {
    /// Decibels.
    Decibel,
    /// Ohms.
    Ohm,
    /// Pascals, or any pressure as it is.
    Pascal,
}

impl MagnitudeUnit {
    /// What is told in it.
    pub fn quantity(self) -> Measurand {
        if self == MagnitudeUnit::Ohm { Measurand::Impedance } else { Measurand::Level }
    }
}

/// How a text is read.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ColumnReading {
    /// What stands between the columns.
    pub separator: Separator,
    /// Whether 20,5 means twenty and a half.
    pub decimal_comma: bool,
    /// What each column holds, from the first.
    #[schemars(length(min = 1, max = MOST_COLUMNS))]
    pub columns: Vec<ColumnRole>,
    /// What the magnitude is counted in.
    pub unit: MagnitudeUnit,
    /// Whether frequencies are in kHz.
    pub kilohertz: bool,
    /// Whether phases are in radians.
    pub radians: bool,
}

/// A text as it looks, before its numbers are read.
#[derive(Clone, Debug)]
pub struct Looked {
    /// How it is read.
    pub reading: ColumnReading,
    /// Why so: a sentence for each thing that was not plain.
    pub reasons: Vec<String>,
    /// Names over the columns, where there are any.
    pub names: Vec<String>,
    /// The first rows as they stand.
    pub rows: Vec<Vec<String>>,
}

/// A text, read.
#[derive(Clone, Debug)]
pub struct Read {
    /// What came of it.
    pub curve: Curve,
    /// How it was read.
    pub reading: ColumnReading,
    /// Why so: a sentence for each thing that was not plain.
    pub reasons: Vec<String>,
    /// Names over the columns, where there are any.
    pub names: Vec<String>,
    /// The first rows as they stand.
    pub rows: Vec<Vec<String>>,
    /// What was left out or put right.
    pub warnings: Vec<String>,
}

/// Looks at a text: how it would be read, by its own looks or as one is told, so that a person can correct it even where it cannot be
/// read so.
///
/// # Errors
/// [`CurveError`] where there are no two lines of numbers in columns.
pub fn look(bytes: &[u8], told: Option<&ColumnReading>) -> Result<Looked, CurveError> {
    looked_at(&super::decode(bytes)?, told)
}

fn looked_at(text: &str, told: Option<&ColumnReading>) -> Result<Looked, CurveError> {
    if text.trim().is_empty() {
        return Err(CurveError::Empty);
    }
    let data: Vec<(usize, &str)> = lines(text).filter(|(_, line)| is_data(line)).take(LOOKED_AT).collect();
    if data.len() < 2 {
        return Err(CurveError::NoNumbers);
    }
    let separator = told.map_or_else(|| separator_of(&data), |t| t.separator);
    let names = header(text, data[0].0, separator);
    let (reading, reasons) = match told {
        Some(told) => (told.clone(), Vec::new()),
        None => guess(&data, separator, &names)?,
    };
    let rows = data.iter().take(SHOWN).map(|(_, l)| cells(l, separator).map(str::to_owned).collect()).collect();
    Ok(Looked { reading, reasons, names, rows })
}

fn lines(text: &str) -> impl Iterator<Item = (usize, &str)> {
    text.lines().enumerate().map(|(i, line)| (i + 1, line.trim()))
}

/// Reads a text, by its own looks or as one is told.
///
/// # Errors
/// [`CurveError`] with line and column where there is one.
pub fn read(bytes: &[u8], told: Option<&ColumnReading>) -> Result<Read, CurveError> {
    let text = super::decode(bytes)?;
    let Looked { reading, reasons, names, rows } = looked_at(&text, told)?;
    check(&reading)?;
    let mut out = Read { curve: Curve::default(), reading, reasons, names, rows, warnings: Vec::new() };
    let (points, skipped) = points(lines(&text), &out.reading)?;
    if let Some(first) = skipped.first() {
        let words = match skipped.len() {
            1 => format!("line {first} after the first row holds no numbers and was left out"),
            n => format!("{n} lines after the first row hold no numbers and were left out, the first is line {first}"),
        };
        out.warnings.push(words);
    }
    out.curve = curve(points, &out.reading, &mut out.warnings)?;
    Ok(out)
}

/// Whether a line begins with a number.
fn is_data(line: &str) -> bool {
    let bytes = line.trim_start_matches('"').as_bytes();
    match bytes {
        [b'0'..=b'9', ..] | [b'-' | b'+' | b'.', b'0'..=b'9', ..] => {
            // a date or a version at the head of a file is none
            let first = line.split([',', ';', '\t', ' ']).next().unwrap_or_default();
            first.bytes().filter(|b| matches!(b, b'/' | b':' | b'.')).count() < 2
                && !first.contains(['/', ':'])
                && !first[1..].contains(|c: char| c == '-' && !first.contains(['e', 'E']))
        }
        _ => false,
    }
}

fn cells(line: &str, separator: Separator) -> impl Iterator<Item = &str> {
    let plain = |cell: &'_ str| -> bool { !cell.is_empty() };
    let space = separator == Separator::Space;
    line.split(move |c: char| match separator {
        Separator::Comma => c == ',',
        Separator::Semicolon => c == ';',
        Separator::Tab => c == '\t',
        Separator::Space => c == ' ' || c == '\t',
    })
    .map(move |cell| {
        let cell = cell.trim().trim_matches('"').trim();
        // "20.5, 80.1" is divided by spaces as well as by commas
        if space { cell.trim_end_matches([',', ';']) } else { cell }
    })
    .filter(move |cell| !space || plain(cell))
    .take(MOST_COLUMNS)
}

fn separator_of(data: &[(usize, &str)]) -> Separator {
    let all = |c: char| data.iter().all(|(_, line)| line.contains(c));
    if all(';') {
        return Separator::Semicolon;
    }
    if all('\t') {
        return Separator::Tab;
    }
    if data.iter().all(|(_, line)| line.contains(char::is_whitespace)) {
        return Separator::Space;
    }
    if all(',') { Separator::Comma } else { Separator::Space }
}

/// The names over the columns: the last line before the numbers that has words, comment marks taken off.
fn header(text: &str, first: usize, separator: Separator) -> Vec<String> {
    let line = text.lines().take(first - 1).filter(|l| l.contains(char::is_alphabetic)).last();
    let Some(line) = line else { return Vec::new() };
    let line = line.trim().trim_start_matches(['#', '*', ';', '%', '!', '/']).trim();
    // names hold spaces of their own: a header of words divided by tabs or commas is told by those
    let divider = if separator == Separator::Space && line.contains('\t') {
        Separator::Tab
    } else if separator == Separator::Space && line.contains(',') {
        Separator::Comma
    } else {
        separator
    };
    cells(line, divider).map(|c| c.chars().take(60).collect()).collect()
}

/// Roles and units from the header's words and, where it has none, from the numbers themselves.
fn guess(
    data: &[(usize, &str)],
    separator: Separator,
    header: &[String],
) -> Result<(ColumnReading, Vec<String>), CurveError> {
    let mut reasons = Vec::new();
    let row = |line: &'_ str| cells(line, separator).map(str::to_owned).collect::<Vec<_>>();
    let rows: Vec<Vec<String>> = data.iter().map(|(_, line)| row(line)).collect();
    let count = rows.iter().map(Vec::len).min().unwrap_or(0);
    let decimal_comma = separator != Separator::Comma
        && rows.iter().flatten().any(|cell| cell.contains(',') && !cell.contains('.'))
        && !rows.iter().flatten().any(|cell| cell.contains('.') && cell.contains(','));
    if count < 2 {
        return Err(CurveError::OneColumn { line: data[0].0 });
    }
    if decimal_comma {
        reasons.push("commas inside numbers are read as decimal signs".into());
    }
    let number = |cell: &String| parse(cell, decimal_comma);
    let column =
        |i: usize| -> Vec<f64> { rows.iter().filter_map(|r| number(&r[i])).filter(|x| x.is_finite()).collect() };
    let words: Vec<String> = header.iter().map(|h| h.to_lowercase()).collect();
    let named = words.len() >= count;
    let has = |i: usize, list: &[&str]| named && list.iter().any(|w| words[i].contains(w));
    let rises = |list: &[f64]| list.len() > 1 && list.windows(2).all(|w| w[1] > w[0]) && list[0] > 0.0;

    let mut roles = vec![ColumnRole::LeftOut; count];
    let rising: Vec<usize> = (0..count).filter(|i| rises(&column(*i))).collect();
    // a running number before the frequency is none
    let runs = |i: &usize| column(*i).windows(2).all(|w| w[1] - w[0] == 1.0);
    let named_so = (0..count).find(|i| has(*i, &["freq", "hz"]));
    let plain = rising.iter().find(|i| !runs(i)).or(rising.first()).copied();
    let frequency = named_so.or(plain).unwrap_or(0);
    let running = rising.first().copied().filter(|first| named_so.is_none() && plain != Some(*first));
    if let Some(running) = running {
        reasons.push(format!("column {} is taken for a running number", running + 1));
    }
    roles[frequency] = ColumnRole::Frequency;
    for (i, role) in roles.iter_mut().enumerate().filter(|(i, _)| *i != frequency) {
        if has(i, &["phase", "deg", "°", "rad", "angle"]) {
            *role = ColumnRole::Phase;
        } else if has(i, &["imag", "im(", "reactance"]) {
            *role = ColumnRole::Imaginary;
        } else if has(i, &["real", "re(", "resistance"]) {
            *role = ColumnRole::Real;
        } else if has(i, &["spl", "db", "level", "mag", "ohm", "ω", "imped", "amplitude", "pressure", "|z|", "sound"])
        {
            *role = ColumnRole::Magnitude;
        }
    }
    // of several columns of a kind the first counts; real and imaginary part only as a pair
    for kind in [ColumnRole::Magnitude, ColumnRole::Phase, ColumnRole::Real, ColumnRole::Imaginary] {
        for (at, i) in (0..count).filter(|i| roles[*i] == kind).collect::<Vec<_>>().into_iter().enumerate() {
            if at > 0 {
                roles[i] = ColumnRole::LeftOut;
                reasons.push(format!("column {} is of the same kind as one before it and is left out", i + 1));
            }
        }
    }
    let whole = roles.contains(&ColumnRole::Real) && roles.contains(&ColumnRole::Imaginary);
    for role in &mut roles {
        match role {
            ColumnRole::Magnitude | ColumnRole::Phase if whole => *role = ColumnRole::LeftOut,
            ColumnRole::Real | ColumnRole::Imaginary if !whole => *role = ColumnRole::LeftOut,
            _ => {}
        }
    }
    if !whole && !roles.contains(&ColumnRole::Magnitude) {
        let free = |roles: &[ColumnRole]| {
            (0..count).find(|i| roles[*i] == ColumnRole::LeftOut && Some(*i) != running && !column(*i).is_empty())
        };
        if let Some(i) = free(&roles) {
            roles[i] = ColumnRole::Magnitude;
            if !roles.contains(&ColumnRole::Phase)
                && let Some(j) = free(&roles)
                && j > i
            {
                roles[j] = ColumnRole::Phase;
                if !named {
                    reasons.push(format!("column {} is taken for the phase", j + 1));
                }
            }
        }
    }
    let of = |role: ColumnRole| roles.iter().position(|r| *r == role);
    let Some(magnitude) = of(ColumnRole::Magnitude).or(of(ColumnRole::Real)) else {
        return Err(CurveError::OneColumn { line: data[0].0 });
    };

    let hz = column(frequency);
    let top = hz.iter().copied().fold(0.0, f64::max);
    let kilohertz = if has(frequency, &["khz"]) {
        true
    } else if has(frequency, &["hz"]) {
        false
    } else if top > 0.0 && top <= 25.0 {
        reasons.push(format!("frequencies are taken for kHz, since they end at {top}"));
        true
    } else {
        false
    };
    let values = column(magnitude);
    let unit = if has(magnitude, &["ohm", "ω", "imped", "|z|"]) {
        MagnitudeUnit::Ohm
    } else if has(magnitude, &["db", "spl", "level"]) {
        MagnitudeUnit::Decibel
    } else if has(magnitude, &["pa)", "(pa", "pascal", "pressure"]) {
        MagnitudeUnit::Pascal
    } else {
        let (least, most) =
            (values.iter().copied().fold(f64::MAX, f64::min), values.iter().copied().fold(0.0, f64::max));
        let mut sorted = values.clone();
        sorted.sort_by(f64::total_cmp);
        let middle = sorted.get(sorted.len() / 2).copied().unwrap_or(0.0);
        if least > 0.5 && least < 40.0 && middle < 45.0 {
            reasons.push(format!("magnitudes from {least} to {most} are taken for ohms"));
            MagnitudeUnit::Ohm
        } else {
            reasons.push("magnitudes are taken for decibels".into());
            MagnitudeUnit::Decibel
        }
    };
    let radians = of(ColumnRole::Phase).is_some_and(|i| {
        if has(i, &["rad"]) {
            return true;
        }
        let within = column(i).iter().all(|x| x.abs() <= std::f64::consts::PI);
        if within && !has(i, &["deg", "°"]) {
            reasons.push("phases are taken for degrees, though none is beyond 3.15: they may be radians".into());
        }
        false
    });
    Ok((ColumnReading { separator, decimal_comma, columns: roles, unit, kilohertz, radians }, reasons))
}

fn check(reading: &ColumnReading) -> Result<(), CurveError> {
    let count = |role: ColumnRole| reading.columns.iter().filter(|r| **r == role).count();
    let most_one =
        [ColumnRole::Frequency, ColumnRole::Magnitude, ColumnRole::Phase, ColumnRole::Real, ColumnRole::Imaginary];
    if reading.columns.len() > MOST_COLUMNS {
        return Err(CurveError::Roles("there are too many columns"));
    }
    if most_one.iter().any(|r| count(*r) > 1) {
        return Err(CurveError::Roles(
            "a frequency, a magnitude and a phase are read once each; two columns hold the same",
        ));
    }
    if count(ColumnRole::Frequency) == 0 {
        return Err(CurveError::Roles("one column has to hold the frequency"));
    }
    let pair = count(ColumnRole::Real) + count(ColumnRole::Imaginary);
    match (count(ColumnRole::Magnitude), pair, count(ColumnRole::Phase)) {
        (1, 0, _) => Ok(()),
        (0, 2, 0) if reading.unit != MagnitudeUnit::Decibel => Ok(()),
        (0, 2, 0) => Err(CurveError::Roles("real and imaginary parts are in ohms or pascals, not in decibels")),
        _ => Err(CurveError::Roles("a magnitude is needed, or a real and an imaginary part without one")),
    }
}

/// A number as people write it.
fn parse(cell: &str, decimal_comma: bool) -> Option<f64> {
    let cell: Cow<str> = if decimal_comma && cell.contains(',') { cell.replace(',', ".").into() } else { cell.into() };
    cell.parse().ok()
}

/// One point: its line, frequency, first and second value.
type Point = (usize, f64, f64, f64);

fn points<'a>(
    lines: impl Iterator<Item = (usize, &'a str)>,
    reading: &ColumnReading,
) -> Result<(Vec<Point>, Vec<usize>), CurveError> {
    let place = |wanted: &[ColumnRole]| reading.columns.iter().position(|r| wanted.contains(r));
    let wanted = [
        place(&[ColumnRole::Frequency]),
        place(&[ColumnRole::Magnitude, ColumnRole::Real]),
        place(&[ColumnRole::Phase, ColumnRole::Imaginary]),
    ];
    let last = wanted.iter().flatten().max().copied().unwrap_or(0);
    let (mut points, mut skipped): (Vec<Point>, Vec<usize>) = (Vec::new(), Vec::new());
    for (line, text) in lines {
        if !is_data(text) {
            let comment = text.starts_with(['#', '*', ';', '%', '!', '/']);
            if !points.is_empty() && !text.is_empty() && !comment {
                skipped.push(line);
            }
            continue;
        }
        if points.len() == MOST_POINTS {
            return Err(CurveError::TooMany { most: MOST_POINTS });
        }
        let mut found = [0.0; 3];
        let mut there = 0;
        for (i, cell) in cells(text, reading.separator).enumerate().take(last + 1) {
            there = i + 1;
            for (slot, _) in wanted.iter().enumerate().filter(|(_, w)| **w == Some(i)) {
                let Some(value) = parse(cell, reading.decimal_comma) else {
                    return Err(CurveError::NotANumber { line, column: i + 1, cell: cell.chars().take(40).collect() });
                };
                found[slot] = value;
            }
        }
        if there <= last {
            return Err(CurveError::NoColumn { line, column: there + 1 });
        }
        points.push((line, found[0], found[1], found[2]));
    }
    Ok((points, skipped))
}

fn curve(mut points: Vec<Point>, reading: &ColumnReading, warnings: &mut Vec<String>) -> Result<Curve, CurveError> {
    let column = |wanted: &[ColumnRole]| reading.columns.iter().position(|r| wanted.contains(r)).unwrap_or(0) + 1;
    let parts = reading.columns.contains(&ColumnRole::Imaginary);
    let has_phase = parts || reading.columns.contains(&ColumnRole::Phase);
    for (line, f, a, b) in &points {
        let impossible = |roles: &[ColumnRole], what: &str| {
            Err(CurveError::Impossible { line: *line, column: column(roles), what: what.into() })
        };
        if !f.is_finite() || *f < 0.0 {
            return impossible(&[ColumnRole::Frequency], "a frequency above 0 is expected");
        }
        let sound = match reading.unit {
            MagnitudeUnit::Decibel => a.abs() < 400.0,
            _ if parts => a.abs() < 1e6 && b.abs() < 1e6,
            _ => *a >= 0.0 && *a < 1e6,
        };
        if !sound {
            let what = match reading.unit {
                MagnitudeUnit::Decibel => "a level between -400 and 400 dB is expected",
                MagnitudeUnit::Ohm => "an impedance between 0 and a million ohm is expected",
                MagnitudeUnit::Pascal => "a pressure between 0 and a million pascal is expected",
            };
            return impossible(&[ColumnRole::Magnitude, ColumnRole::Real], what);
        }
        if !(b.is_finite() && b.abs() < 1e7) {
            return impossible(&[ColumnRole::Phase, ColumnRole::Imaginary], "the phase is no angle");
        }
    }
    let before = points.len();
    points.retain(|p| p.1 > 0.0);
    if points.len() < before {
        warnings.push("a point at 0 Hz was left out".into());
    }
    if points.windows(2).any(|w| w[1].1 < w[0].1) {
        warnings.push("frequencies did not rise; the points were put in order".into());
        points.sort_by(|a, b| a.1.total_cmp(&b.1));
    }
    let before = points.len();
    points.dedup_by(|b, a| b.1 == a.1);
    if points.len() < before {
        warnings.push(format!("{} points at the frequency of one before them were left out", before - points.len()));
    }
    if points.len() < 2 {
        return Err(CurveError::NoNumbers);
    }
    let hertz = if reading.kilohertz { 1e3 } else { 1.0 };
    let degree = if reading.radians { 1.0 } else { std::f64::consts::PI / 180.0 };
    let value = |a: f64, b: f64| {
        if parts {
            return Complex64::new(a, b);
        }
        let magnitude = if reading.unit == MagnitudeUnit::Decibel { P_REF * 10f64.powf(a / 20.0) } else { a };
        Complex64::from_polar(magnitude, b * degree)
    };
    Ok(Curve {
        quantity: reading.unit.quantity(),
        frequency: points.iter().map(|p| p.1 * hertz).collect(),
        value: points.iter().map(|p| value(p.2, p.3)).collect(),
        has_phase,
        snr_db: Vec::new(),
    })
}

/// A curve as plain text in three columns, or two without a phase, with a line of comment above.
pub fn write(curve: &Curve, title: &str) -> String {
    written(curve, &format!("# {}\n# ", title.replace(['\n', '\r'], " ")), "\t", ["frequency Hz", "", "phase degree"])
}

/// A curve as CSV with a header.
pub fn write_csv(curve: &Curve) -> String {
    written(curve, "", ",", ["frequency_hz", "", "phase_deg"])
}

fn written(curve: &Curve, before: &str, between: &str, names: [&str; 3]) -> String {
    let plain = between == "\t";
    let magnitude = match (curve.quantity, plain) {
        (Measurand::Level, true) => "level dB",
        (Measurand::Level, false) => "level_db",
        (Measurand::Impedance, true) => "impedance ohm",
        (Measurand::Impedance, false) => "impedance_ohm",
    };
    let mut header = vec![names[0], magnitude];
    if curve.has_phase {
        header.push(names[2]);
    }
    let mut text = format!("{before}{}\n", header.join(between));
    let phase = curve.phase_deg();
    for (i, (f, m)) in curve.frequency.iter().zip(curve.magnitude()).enumerate() {
        let _ = write!(text, "{f}{between}{m}");
        if let Some(phase) = &phase {
            let _ = write!(text, "{between}{}", phase[i]);
        }
        text.push('\n');
    }
    text
}
