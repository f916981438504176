//! Rules about what woofer and amplifier can stand at the drive chosen.

use crate::analysis::Analysis;
use crate::drive::chain_rules::low_cuts;
use crate::drive::likely::likely_amplifier;
use crate::drive::power::{as_sold, lowest_load, most_heat};
use crate::finding::{self, Finding, LimitSource, Severity, finding, remedy, rounded, say};
use crate::trial::Case;
use crate::woofer::arrangement::wiring_in_words;
use oak_drum_acoustics::driver::wirings;
use oak_drum_document::Change;
use oak_drum_text::{capital, litres, travel};
use serde_json::json;

fn drive(volts: f64) -> Vec<Change> {
    vec![Change::set("/drive", json!({"kind": "voltage", "volts": volts}))]
}

fn excursion_mm(analysis: &Analysis, from: f64, to: f64) -> Option<(f64, f64)> {
    analysis.largest(&analysis.curves().excursion, from, to).map(|(x, f)| (x * 1e3, f))
}

/// No amplifier is stated: whether it clips, what it costs and what it warms was not judged.
pub fn amplifier_not_stated(case: &Case) -> Vec<Finding> {
    if case.design.chain.amplifier.is_some() {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Note,
        LimitSource::CommonPractice,
        "/chain/amplifier",
        "No amplifier is stated",
        format!(
            "Driven with {:.1} V as if anything could: whether an amplifier has them, how loud it then gets and how warm the coil was not judged.",
            case.context.source.volts
        ),
        (case.context.source.volts, "V"),
        None,
    );
    let likely = likely_amplifier(case);
    let (power, load) = (likely.power_w, likely.load_ohm);
    let changes = vec![Change::set(
        "/chain/amplifier",
        json!({"power_w": power, "load_ohm": load, "minimum_load_ohm": likely.minimum_load_ohm}),
    )];
    f.remedies.extend(remedy(case, format!("Reckon with {power:.0} W into {load:.0} ohm"), changes, |a| {
        let volts = a.design.chain.amplifier.as_ref()?.volts();
        Some(format!("up to {volts:.0} V; its own figures when you have it"))
    }));
    vec![f]
}

/// The cone runs past Xmax in the band it is meant to play.
pub fn excursion_over_limit(case: &Case) -> Vec<Finding> {
    let Some(limit) = case.design.woofer.xmax_mm else { return Vec::new() };
    let low = case.lowest_note();
    let Some((excursion, at)) = excursion_mm(case, low, 800.0).filter(|(x, _)| *x > limit) else { return Vec::new() };
    let volts = case.context.source.volts;
    let mut f = finding(
        Severity::Broken,
        LimitSource::DataSheet,
        "/drive",
        format!("Cone past its limit at {at:.0} Hz"),
        format!(
            "{excursion:.1} one way at {at:.0} Hz with {} V; Xmax is {limit:.1}.",
            say(volts),
            excursion = travel(excursion),
            limit = travel(limit)
        ),
        (excursion, "mm"),
        Some(limit),
    );
    let level = |a: &Analysis| a.largest(&a.curves().level_db, low, 200.0).map_or(0.0, |l| l.0);
    let before = level(case);
    let lower = rounded(volts * limit / excursion * 0.995);
    f.remedies.extend(remedy(case, format!("Drive with {} V", say(lower)), drive(lower), |a| {
        Some(format!("{:.1}; {:.1} dB quieter", travel(excursion_mm(a, low, 800.0)?.0), before - level(a)))
    }));
    if let Some((at, net)) = finding::volume(case) {
        let volume = rounded(net * 0.7e3);
        let title = format!("{} instead: the air holds the cone", litres(rounded(volume)));
        f.remedies.extend(remedy(case, title, vec![Change::set(at, volume)], |a| {
            let after = excursion_mm(a, low, 800.0)?.0;
            (after < excursion).then(|| format!("{after:.1}; {}", finding::low_end(a), after = travel(after)))
        }));
    }
    if case.design.array.count == 1 {
        let volume = case.wired.chambers.first().map_or(0.0, |c| c.net * 2e3);
        let mut changes = drive(rounded(volts / 2.0));
        changes.push(Change::set("/array/count", 2));
        changes.push(Change::set("/enclosure/net_volume_l", rounded(volume)));
        f.remedies.extend(remedy(case, "Two woofers, twice the box, half the voltage", changes, |a| {
            Some(format!(
                "{:.1} each at the same level ({:+.1} dB)",
                travel(excursion_mm(a, low, 800.0)?.0),
                level(a) - before
            ))
        }));
    }
    vec![f]
}

/// Below its tuning a vented box no longer holds the cone.
pub fn unloads_below_tuning(case: &Case) -> Vec<Finding> {
    let Some((limit, tuning)) = case.design.woofer.xmax_mm.zip(case.wired.unloads_below) else {
        return Vec::new();
    };
    let top = tuning.min(case.lowest_note()) * 0.98;
    let over = |a: &Analysis| {
        let c = a.curves();
        c.frequency.iter().zip(&c.excursion).rev().find(|(f, x)| **f < top && **x * 1e3 > limit).map(|(f, _)| *f)
    };
    let Some(from) = over(case) else { return Vec::new() };
    let worst = excursion_mm(case, 5.0, top).map_or(0.0, |x| x.0);
    let volts = case.context.source.volts;
    let mut f = finding(
        Severity::Look,
        LimitSource::DataSheet,
        "/drive",
        format!("Cone runs free below {from:.0} Hz"),
        format!(
            "Under the tuning the box no longer holds the cone: past {limit:.1} from {from:.0} Hz down at {} V. Send it nothing that low, or take a low cut.",
            say(volts),
            limit = travel(limit)
        ),
        (worst, "mm"),
        Some(limit),
    );
    f.remedies.extend(low_cuts(case));
    let lower = rounded(volts * limit / worst * 0.995);
    f.remedies.extend(remedy(case, format!("Drive with {} V", say(lower)), drive(lower), |a| {
        over(a).is_none().then(|| format!("stays inside {limit:.1} down to 5 Hz", limit = travel(limit)))
    }));
    vec![f]
}

/// Passive radiators driven past their excursion from the lowest note up.
pub fn radiator_over_limit(case: &Case) -> Vec<Finding> {
    let Some(limit) = crate::analysis::radiator_limit(case).map(|x| x * 1e3) else { return Vec::new() };
    let low = case.lowest_note();
    let excursion = |a: &Analysis| a.largest(&a.curves().radiator_excursion, low, 300.0).map(|(x, f)| (x * 1e3, f));
    let Some((most, at)) = excursion(case).filter(|(x, _)| *x > limit) else { return Vec::new() };
    let volts = case.context.source.volts;
    let mut f = finding(
        Severity::Broken,
        LimitSource::DataSheet,
        "/enclosure/radiators/count",
        format!("Radiator past its limit at {at:.0} Hz"),
        format!(
            "{most:.1} one way at {at:.0} Hz with {} V; it can do {limit:.1}.",
            say(volts),
            most = travel(most),
            limit = travel(limit)
        ),
        (most, "mm"),
        Some(limit),
    );
    let lower = rounded(volts * limit / most * 0.995);
    f.remedies.extend(remedy(case, format!("Drive with {} V", say(lower)), drive(lower), |a| {
        Some(format!("{:.1}", travel(excursion(a)?.0)))
    }));
    let document = serde_json::to_value(&case.design.enclosure).unwrap_or_default();
    let radiators = |name: &str| document.pointer(&format!("/radiators/{name}")).and_then(serde_json::Value::as_f64);
    if let Some((count, added)) = radiators("count").zip(radiators("added_mass_g")) {
        // twice the radiators at the same tuning want twice the mass on each
        let one = case.wired.figures.iter().find(|f| f.id == "radiator_mass_g").map_or(0.0, |f| f.value);
        let changes = vec![
            Change::set("/enclosure/radiators/count", (count * 2.0) as u32),
            Change::set("/enclosure/radiators/added_mass_g", rounded(added + one)),
        ];
        f.remedies.extend(remedy(case, "Twice as many, heavier", changes, |a| {
            let after = excursion(a)?.0;
            (after < most).then(|| format!("{after:.1} each; {}", finding::low_end(a), after = travel(after)))
        }));
    }
    vec![f]
}

/// More heat in the coils than they are rated for.
pub fn coil_over_power(case: &Case) -> Vec<Finding> {
    let Some(limit) = case.conditions.limits.heat else { return Vec::new() };
    let heat = most_heat(case);
    if heat <= limit {
        return Vec::new();
    }
    let volts = case.context.source.volts;
    let mut f = finding(
        Severity::Broken,
        LimitSource::DataSheet,
        "/drive",
        "Coil too hot",
        format!(
            "{} V bring up to {} W of heat into the coils, rated for {} W: they burn in minutes.",
            say(volts),
            say(heat),
            say(limit)
        ),
        (heat, "W"),
        Some(limit),
    );
    let lower = rounded(volts * (limit / heat).sqrt() * 0.995);
    f.remedies.extend(remedy(case, format!("Drive with {} V", say(lower)), drive(lower), |a| {
        Some(format!("{} W at most", say(most_heat(a))))
    }));
    vec![f]
}

/// How far the lowest impedance may lie under the nominal one (IEC 60268-5).
pub(super) const UNDER: f64 = 0.8;

/// A load below what the amplifier may drive. Nominal loads lie above their lowest impedance by custom, so a
/// fifth under the amplifier's lowest load is still allowed (IEC 60268-5: not below 80 % of the rated value). Woofers whose nominal
/// impedance is what the amplifier asks for seldom keep to that, and are played all the same: that is worth knowing, no more.
pub fn load_below_amplifier(case: &Case) -> Vec<Finding> {
    let Some(amplifier) = case.design.chain.amplifier_on() else { return Vec::new() };
    let (z, at) = lowest_load(case.curves());
    let limit = amplifier.minimum_load_ohm * UNDER;
    if z >= limit {
        return Vec::new();
    }
    let sold = as_sold(case, amplifier.minimum_load_ohm, z);
    let falls = format!(
        "The impedance falls to {z:.2} ohm at {at:.0} Hz; an amplifier for {} ohm may go down to {limit:.2}.",
        say(amplifier.minimum_load_ohm)
    );
    let (severity, title, sentence) = match sold {
        Some(n) => (
            Severity::Note,
            "Load a little low for the amplifier",
            format!(
                "{falls} What is sold as {} ohm often does, and is played all the same: feel whether the amplifier gets hot.",
                say(n)
            ),
        ),
        None => (Severity::Broken, "Load too low for the amplifier", falls),
    };
    let place = "/array/woofers_in_series";
    let mut f = finding(severity, LimitSource::Brief, place, title, sentence, (z, "ohm"), Some(limit));
    let array = &case.design.array;
    for (coils, in_series) in wirings(array.count, case.woofer.coils) {
        if (coils, in_series) == (array.coils, array.woofers_in_series) {
            continue;
        }
        let changes = vec![
            Change::set("/array/coils", serde_json::to_value(coils).unwrap_or_default()),
            Change::set("/array/woofers_in_series", in_series),
        ];
        let title = capital(&wiring_in_words(array.count, case.woofer.coils, coils, in_series));
        let found = remedy(case, title, changes, |a| {
            let after = lowest_load(a.curves()).0;
            (after >= limit).then(|| format!("lowest impedance {after:.1} ohm"))
        });
        f.remedies.extend(found);
    }
    vec![f]
}

/// A drive the amplifier cannot give.
pub fn drive_over_amplifier(case: &Case) -> Vec<Finding> {
    let Some(limit) = case.conditions.limits.volts else { return Vec::new() };
    let volts = case.context.source.volts;
    // what the filters lift clips first
    let emf = |a: &Analysis| {
        let c = a.curves();
        let list: Vec<f64> = c.emf.iter().map(|e| e.norm()).collect();
        let programme = &a.design.programme;
        a.largest(&list, programme.from_hz, a.design.programme_to()).unwrap_or((volts, programme.from_hz))
    };
    let (most, at) = emf(case);
    if most <= limit * 1.001 {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        "/chain/amplifier",
        "More than the amplifier gives",
        if most > volts * 1.01 {
            format!(
                "The curves are drawn for {} V, which the filters lift to {} V at {at:.0} Hz; the amplifier clips at {} V.",
                say(volts),
                say(most),
                say(limit)
            )
        } else {
            format!("The curves are drawn for {} V; the amplifier clips at {} V.", say(volts), say(limit))
        },
        (most, "V"),
        Some(limit),
    );
    let lower = (limit * volts / most * 10.0).floor() / 10.0;
    f.remedies.extend(remedy(case, format!("Drive with {lower} V"), drive(lower), |a| {
        (emf(a).0 <= limit * 1.001).then(|| "what the amplifier can give".into())
    }));
    vec![f]
}
