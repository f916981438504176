//! What follows from what is held: the third side from the wanted volume, or the volume from the outside.

use crate::analysis::folding::is_folded;
use crate::analysis::ledger::ledger_of;
use oak_drum_acoustics::families::Context;
use oak_drum_acoustics::port::Face;
use oak_drum_document::{Constraint, Design, Shape, Spot};
use std::borrow::Cow;

/// Smallest and largest side that is tried, mm.
const SIDES: [f64; 2] = [60.0, 5000.0];

/// The design with everything that follows put in. Volume and port go together: the port of another volume has another length
/// and takes another bite out of it, so that both are a fixed point.
pub fn solve_dimensions<'a>(design: &'a Design, context: &Context) -> Cow<'a, Design> {
    let Some(cabinet) = &design.cabinet else { return Cow::Borrowed(design) };
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let held = if is_folded(design) { Constraint::All } else { cabinet.held };
    let placed = cabinet.woofers_at.first().or(cabinet.openings_at.first()).is_some();
    if held == Constraint::All && !tube && !placed {
        return Cow::Borrowed(design);
    }
    let mut made = design.clone();
    place(&mut made);
    if tube && let Some(cabinet) = &mut made.cabinet {
        cabinet.depth_mm = cabinet.width_mm;
    }
    match held {
        Constraint::All => {}
        Constraint::Outside => follow_volume(&mut made, context),
        _ => follow_sides(&mut made, context, held, tube),
    }
    Cow::Owned(made)
}

/// The design with its cabinet solved as if so much were held, and its own hold left as it was; `None` where there is no cabinet
/// or no size holds the volume.
pub fn fitted(design: &Design, context: &Context, held: Constraint) -> Option<Design> {
    let mut asked = design.clone();
    let own = asked.cabinet.as_ref()?.held;
    asked.cabinet.as_mut()?.held = held;
    let mut solved = solve_dimensions(&asked, context).into_owned();
    solved.cabinet.as_mut()?.held = own;
    Some(solved)
}

/// Where the first woofer and opening sit on the baffle is where the chamber's standing waves meet them.
fn place(made: &mut Design) {
    let Some(cabinet) = &made.cabinet else { return };
    let t = cabinet.panel_mm;
    let on_baffle =
        |spots: &[Spot]| spots.first().filter(|s| s.face == Face::Baffle).map(|s| (s.across_mm - t, s.up_mm - t));
    let (woofer, opening) = (on_baffle(&cabinet.woofers_at), on_baffle(&cabinet.openings_at));
    let Some((_, Some(inside))) = made.enclosure.one_chamber() else { return };
    if let Some((across, up)) = woofer {
        inside.woofer_across_mm = across.clamp(0.0, inside.width_mm);
        inside.woofer_up_mm = up.clamp(0.0, inside.height_mm);
    }
    if let Some((across, up)) = opening {
        inside.opening_across_mm = across.clamp(0.0, inside.width_mm);
        inside.opening_up_mm = up.clamp(0.0, inside.height_mm);
    }
}

fn follow_volume(made: &mut Design, context: &Context) {
    for _ in 0..40 {
        let wired = made.enclosure.wire(context);
        let Some(ledger) = ledger_of(made, &wired) else { return };
        let Some((net, _)) = made.enclosure.one_chamber() else { return };
        let next = ledger.net_l.max(0.2);
        let still = (next - *net).abs() < 1e-5 * next;
        // a port of growing length slows it down: half a step is steady
        *net = if (next - *net).abs() > 0.3 * *net { next } else { 0.5 * (*net + next) };
        if still {
            *net = (next * 1e4).round() / 1e4;
            return;
        }
    }
}

fn follow_sides(made: &mut Design, context: &Context, held: Constraint, tube: bool) {
    let wired = made.enclosure.wire(context);
    let start = match &made.cabinet {
        Some(cabinet) => [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm],
        None => return,
    };
    let set = |made: &mut Design, k: f64| {
        if let Some(cabinet) = &mut made.cabinet {
            match held {
                Constraint::WidthAndHeight if !tube => cabinet.depth_mm = k,
                Constraint::HeightAndDepth if !tube => cabinet.width_mm = k,
                Constraint::Ratio => {
                    cabinet.width_mm = start[0] * k / start[0];
                    cabinet.height_mm = start[1] * k / start[0];
                    cabinet.depth_mm = start[2] * k / start[0];
                }
                // a tube is held by its diameter: the height follows
                _ => cabinet.height_mm = k,
            }
        }
    };
    let over = |made: &mut Design, k: f64| -> Option<f64> {
        set(made, k);
        let room = made.cabinet.as_ref()?.inside_mm();
        let ledger = ledger_of(made, &wired)?;
        // no inside at all is less than any volume
        Some(if room.iter().any(|s| *s <= 0.0) { -ledger.wanted_net_l } else { ledger.net_l - ledger.wanted_net_l })
    };
    let Some(side) = root(SIDES, |side| over(made, side)) else { return };
    // to a tenth of a millimetre
    let _ = over(made, (side * 10.0).round() / 10.0);
}

/// Where a rising function passes zero between two places, to 1e-4 of a unit of place; the end it does not reach where it does
/// not. Regula falsi with the Illinois rule (Dowell & Jarratt, BIT 11, 1971), every third step a halving for the flat parts;
/// `None` where the function is.
fn root([mut low, mut high]: [f64; 2], mut f: impl FnMut(f64) -> Option<f64>) -> Option<f64> {
    let (mut below, mut above) = (f(low)?, f(high)?);
    if below > 0.0 {
        return Some(low);
    }
    if above <= 0.0 {
        return Some(high);
    }
    let mut last = 0.0;
    for step in 1..100 {
        if high - low < 1e-4 {
            break;
        }
        let halved = step % 3 == 0;
        let between = (low * above - high * below) / (above - below);
        // a little past the root on the far side closes the bracket from both sides
        let place = if halved { 0.5 * (low + high) } else { between.clamp(low + 4e-5, high - 4e-5) };
        let value = f(place)?;
        if value > 0.0 {
            (high, above) = (place, value);
            below *= if last > 0.0 && !halved { 0.5 } else { 1.0 };
        } else {
            (low, below) = (place, value);
            above *= if last < 0.0 && !halved { 0.5 } else { 1.0 };
        }
        last = if value > 0.0 { 1.0 } else { -1.0 };
    }
    Some(high)
}

#[cfg(test)]
mod tests {
    use super::root;

    #[test]
    fn roots_are_found_in_few_steps_on_flats_and_kinks_too() {
        type Case = (&'static str, fn(f64) -> f64, f64);
        let cases: [Case; 5] = [
            ("line", |x| 0.3 * (x - 412.34), 412.34),
            ("cubic", |x| (x / 100.0).powi(3) - 90.0, 448.140_475),
            ("flat below", |x| if x < 96.0 { -50.0 } else { 0.2 * (x - 96.0) - 50.0 }, 346.0),
            ("kink", |x| if x < 500.0 { 0.01 * (x - 510.0) } else { 5.0 * (x - 510.0) + 49.9 }, 500.02),
            ("steep", |x| (x - 77.7) * (x + 20.0) * 40.0, 77.7),
        ];
        for (name, f, there) in cases {
            let mut count = 0;
            let found = root([60.0, 5000.0], |x| {
                count += 1;
                Some(f(x))
            });
            assert!((found.unwrap() - there).abs() < 2e-4, "{name}: {found:?}");
            assert!(count <= 48, "{name}: {count} steps");
        }
        assert_eq!(root([60.0, 90.0], |x| Some(x - 100.0)), Some(90.0));
        assert_eq!(root([60.0, 90.0], |x| Some(x - 10.0)), Some(60.0));
        assert_eq!(root([60.0, 90.0], |_| None), None);
    }
}
