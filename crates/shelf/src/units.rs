//! Units as data sheets write them, and numbers as people write them.

use crate::error::CellError;

/// What a column measures: its canonical unit first, then others with their factor to the canonical one.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quantity {
    /// Units with their factors; the first is canonical.
    pub units: &'static [(&'static str, f64)],
}

/// A plain number.
pub const PLAIN: Quantity = Quantity { units: &[("", 1.0)] };
/// Frequency.
pub const FREQUENCY: Quantity = Quantity { units: &[("hz", 1.0), ("khz", 1e3)] };
/// Volume.
pub const VOLUME: Quantity = Quantity {
    units: &[
        ("l", 1.0),
        ("litre", 1.0),
        ("litres", 1.0),
        ("liter", 1.0),
        ("liters", 1.0),
        ("dm3", 1.0),
        ("m3", 1e3),
        ("cm3", 1e-3),
        ("ft3", 28.316846592),
        ("cuft", 28.316846592),
        ("in3", 0.016387064),
    ],
};
/// Area.
pub const AREA: Quantity =
    Quantity { units: &[("cm2", 1.0), ("m2", 1e4), ("mm2", 1e-2), ("in2", 6.4516), ("sqin", 6.4516)] };
/// Length on the frame or of a excursion.
pub const LENGTH: Quantity = Quantity { units: &[("mm", 1.0), ("cm", 10.0), ("m", 1e3), ("in", 25.4), ("inch", 25.4)] };
/// Nominal size.
pub const SIZE: Quantity = Quantity { units: &[("in", 1.0), ("inch", 1.0), ("mm", 1.0 / 25.4), ("cm", 1.0 / 2.54)] };
/// Moving mass.
pub const MASS: Quantity = Quantity { units: &[("g", 1.0), ("kg", 1e3), ("oz", 28.349523125)] };
/// Weight of the whole woofer.
pub const WEIGHT: Quantity = Quantity { units: &[("kg", 1.0), ("g", 1e-3), ("lb", 0.45359237), ("lbs", 0.45359237)] };
/// Compliance.
pub const COMPLIANCE: Quantity = Quantity {
    units: &[("mm/n", 1.0), ("mmpern", 1.0), ("m/n", 1e3), ("mpern", 1e3), ("um/n", 1e-3), ("umpern", 1e-3)],
};
/// Mechanical loss.
pub const LOSS: Quantity = Quantity {
    units: &[("n·s/m", 1.0), ("nsperm", 1.0), ("n*s/m", 1.0), ("ns/m", 1.0), ("kg/s", 1.0), ("kgpers", 1.0)],
};
/// Force factor.
pub const FORCE_FACTOR: Quantity =
    Quantity { units: &[("t·m", 1.0), ("tm", 1.0), ("t*m", 1.0), ("n/a", 1.0), ("npera", 1.0), ("wb/m", 1.0)] };
/// Resistance.
pub const RESISTANCE: Quantity = Quantity { units: &[("ohm", 1.0), ("ohms", 1.0), ("ω", 1.0)] };
/// Inductance.
pub const INDUCTANCE: Quantity = Quantity { units: &[("mh", 1.0), ("h", 1e3), ("uh", 1e-3)] };
/// Power.
pub const POWER: Quantity = Quantity { units: &[("w", 1.0), ("kw", 1e3), ("watt", 1.0), ("watts", 1.0)] };
/// Level.
pub const LEVEL: Quantity = Quantity { units: &[("db", 1.0)] };
/// Semi-inductance.
pub const SEMI: Quantity = Quantity { units: &[("ohm·s^n", 1.0), ("ohmsn", 1.0), ("ohm*s^n", 1.0)] };
/// Voltage.
pub const VOLTAGE: Quantity = Quantity { units: &[("v", 1.0), ("mv", 1e-3)] };
/// Time.
pub const HOURS: Quantity = Quantity { units: &[("h", 1.0), ("hours", 1.0), ("min", 1.0 / 60.0)] };

/// A unit as it is compared: small letters, powers as digits, no spaces.
pub fn plain(unit: &str) -> String {
    unit.trim()
        .to_lowercase()
        .replace('²', "2")
        .replace('³', "3")
        .replace("^2", "2")
        .replace("^3", "3")
        .replace(['µ', 'μ'], "u")
        .replace([' ', '_'], "")
        .replace("cu.ft", "cuft")
        .trim_end_matches('.')
        .to_owned()
}

impl Quantity {
    /// The factor from a unit to the canonical one; `None` for a unit that is not of this kind.
    pub fn factor(&self, unit: &str) -> Option<f64> {
        let unit = plain(unit);
        self.units.iter().find(|(name, _)| *name == unit).map(|(_, factor)| *factor)
    }
    /// The canonical unit.
    pub fn canonical(&self) -> &'static str {
        self.units.first().map_or("", |u| u.0)
    }
}

/// A number with a decimal point or comma, and with spaces or the other sign between thousands.
///
/// # Errors
/// What is wrong with it, with an example.
pub fn number(text: &str) -> Result<f64, CellError> {
    let bare: String = text.chars().filter(|c| !c.is_whitespace() && *c != '\u{202f}' && *c != '\'').collect();
    let refuse = || CellError::NotANumber(shorten(text));
    let (points, commas) = (bare.matches('.').count(), bare.matches(',').count());
    let plain = match (points, commas) {
        (_, 0) if points <= 1 => bare,
        (0, 1) => bare.replace(',', "."),
        // both signs: the last one is the decimal sign, and it stands once
        _ => {
            let last = bare.rfind(['.', ',']).ok_or_else(refuse)?;
            let (whole, rest) = bare.split_at(last);
            let sign = &rest[..1];
            if whole.contains(sign) && points > 0 && commas > 0 {
                return Err(refuse());
            }
            if points == 0 || commas == 0 {
                // one sign several times: thousands
                bare.replace(['.', ','], "")
            } else {
                format!("{}.{}", whole.replace(['.', ','], ""), &rest[1..])
            }
        }
    };
    plain.parse::<f64>().ok().filter(|x| x.is_finite()).ok_or_else(refuse)
}

/// A text short enough for a message.
pub fn shorten(text: &str) -> String {
    if text.chars().count() > 40 { text.chars().take(40).chain(['…']).collect() } else { text.to_owned() }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_as_people_write_them() {
        for (text, value) in [
            ("12.5", 12.5),
            ("12,5", 12.5),
            (" 1 200,5 ", 1200.5),
            ("1.234,5", 1234.5),
            ("1,234.5", 1234.5),
            ("-3e-2", -0.03),
            ("1.234.567", 1234567.0),
        ] {
            assert_eq!(number(text), Ok(value), "{text}");
        }
        for text in ["", "twelve", "1,2,3.4.5", "NaN", "inf", "=1+1", "12..5.6,7,8"] {
            assert!(number(text).is_err(), "{text}");
        }
    }

    /// Legal definitions: the inch is 25.4 mm, the foot 304.8 mm, the pound 0.45359237 kg (1959 agreement).
    #[test]
    fn units_have_their_legal_factors() {
        let cube = |x: f64| x * x * x;
        assert!((VOLUME.factor("ft³").unwrap() - cube(3.048)).abs() < 1e-9);
        assert!((VOLUME.factor("in3").unwrap() - cube(0.254)).abs() < 1e-12);
        assert!((AREA.factor("in²").unwrap() - 2.54 * 2.54).abs() < 1e-12);
        assert!((MASS.factor("oz").unwrap() - 453.59237 / 16.0).abs() < 1e-9);
        assert_eq!(COMPLIANCE.factor("µm/N"), Some(1e-3));
        assert_eq!(FORCE_FACTOR.factor("T·m"), Some(1.0));
        assert_eq!(VOLUME.factor("gallon"), None);
    }
}
