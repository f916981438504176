//! Ports and radiators made: volume and length together, fit, trade-off, trim, the dead end.

use oak_drum_design::airway::port_volume::{in_room, room_of, solve_port_volume};
use oak_drum_design::airway::speed::air_speed;
use oak_drum_design::airway::trim::{TrimWish, trim};
use oak_drum_design::airway::{Airway, airway, fit, trade};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::analysis::inside::chamber_of;
use oak_drum_design::evaluation::findings::findings;
use oak_drum_document::{Change, Checked, Design, apply, read_value};
use serde_json::{Value, json};

fn vented() -> Value {
    json!({
        "format": "oak-drum-design", "version": 5,
        "brief": {"lowest_note_hz": 32}, "chain": {"amplifier": {"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4}},
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.2,
                   "xmax_mm": 12, "power_w": 400, "nominal_ohm": 8, "displacement_l": 3, "depth_mm": 150},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 10, "port_q": 100,
                      "port": {"section": {"shape": "round", "diameter_mm": 105}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 30},
                               "inner_end": {"kind": "flared", "radius_mm": 15},
                               "outer_end": {"kind": "flared", "radius_mm": 15}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18},
        "drive": {"kind": "voltage", "volts": 20},
    })
}

fn design(changes: &[(&str, Value)]) -> Checked {
    let mut document = vented();
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

fn analysis(changes: &[(&str, Value)]) -> Analysis {
    Analysis::of(&design(changes))
}

fn whole(changes: &[(&str, Value)]) -> Airway {
    airway(&design(changes))
}

/// Net volume and what the port takes fill the room, and the length is that of this net volume; with fill too.
#[test]
fn volume_and_length_belong_together() {
    let fill =
        json!({"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 12, "filled_part": 0.4});
    for changes in [vec![], vec![("/enclosure/fill", fill)]] {
        let a = analysis(&changes);
        let report = &a.wired.ports[0];
        let pair = solve_port_volume(&a, report).unwrap();
        assert!(pair.exists && pair.by_cabinet && pair.short_by_l == 0.0);
        assert!((pair.net_l + pair.displaced_l - pair.room_l).abs() < 1e-6, "{pair:?}");
        let held = a.with(&[Change::set("/enclosure/net_volume_l", pair.net_l)]).unwrap();
        assert!((held.wired.ports[0].realised.length * 1e3 - pair.length_mm).abs() < 1e-6);
        // what the ledger then says is what the design wants
        let ledger = held.ledger.unwrap();
        assert!((ledger.net_l - ledger.wanted_net_l).abs() < 1e-6);
    }
}

/// The room a port and its chamber need has a least value (closed form without fill: V + A·(K/V - e), least at √(A·K)); below
/// it there is no pair, and the missing litres are said.
#[test]
fn below_the_least_room_there_is_none() {
    let a = analysis(&[
        ("/enclosure/port/section", json!({"shape": "round", "diameter_mm": 180})),
        ("/enclosure/port/inner_end", json!({"kind": "free"})),
        ("/enclosure/port/outer_end", json!({"kind": "flanged"})),
    ]);
    let report = &a.wired.ports[0];
    let chamber = chamber_of(&a, report).unwrap();
    let there = &report.realised;
    let k = there.effective_length * chamber.net;
    let outside = std::f64::consts::PI * (0.090f64 + 0.003).powi(2);
    let least = 2.0 * (outside * k).sqrt() - outside * (there.ends.added() + 0.018);
    for (room, exists) in [(least * 1.01, true), (least * 0.99, false)] {
        let pair = in_room(&a, &report.port, chamber, room * 1e3);
        assert_eq!(pair.exists, exists, "{pair:?}");
        assert!(exists || (pair.short_by_l / (least * 0.01 * 1e3) - 1.0).abs() < 0.01, "{pair:?}");
    }
}

/// More area for the same tuning means more length, slower air, a lower pipe resonance (common practice); what fits is one
/// stretch from the smallest up; the present port is on the curve.
#[test]
fn the_trade_off() {
    let a = whole(&[]);
    let t = a.ports[0].trade.as_ref().unwrap();
    assert_eq!(t.area_cm2.len(), trade::AREAS);
    let known: Vec<usize> = (0..trade::AREAS).filter(|i| t.length_mm[*i].is_some()).collect();
    for pair in known.windows(2) {
        let (i, j) = (pair[0], pair[1]);
        assert!(t.length_mm[i] < t.length_mm[j] && t.air_speed_m_per_s[i] > t.air_speed_m_per_s[j]);
        assert!(t.pipe_hz[i] > t.pipe_hz[j] && t.displaced_l[i] < t.displaced_l[j]);
    }
    // the smallest are tuned with less than their flares, and have no length either
    let first_fit = t.fits.iter().position(|f| *f).unwrap();
    let first_misfit = first_fit + t.fits[first_fit..].iter().position(|f| !f).unwrap();
    assert!(first_misfit > first_fit + 10 && t.fits[first_misfit..].iter().all(|f| !f));
    assert!(t.length_mm[..first_fit].iter().all(Option::is_none));
    // the largest ones have no length at all: the port would eat the box
    assert!(t.length_mm.last().unwrap().is_none());
    let near =
        t.area_cm2.iter().zip(&t.air_speed_m_per_s).min_by(|x, y| (x.0 - 86.6).abs().total_cmp(&(y.0 - 86.6).abs()));
    let now = a.ports[0].air.as_ref().unwrap().at_drive_m_per_s;
    assert!((near.unwrap().1.unwrap() / now - 1.0).abs() < 0.1);
}

/// Common practice: a quarter-cubic-foot box tuned to 45 Hz wants a vent of about 53 in: absurd, a dead end; the nearest
/// choices are offered, each of them one that exists. (The figure comes without a tube; 93 mm is the one that goes with it.)
#[test]
fn the_quarter_cubic_foot_box_is_a_dead_end() {
    let small = [
        ("/cabinet", Value::Null),
        ("/enclosure/net_volume_l", json!(7.08)),
        (
            "/enclosure/port",
            json!({"section": {"shape": "round", "diameter_mm": 93}, "count": 1,
                                   "sizing": {"by": "tuning", "tuning_hz": 45}}),
        ),
        (
            "/woofer",
            json!({"fs_hz": 42, "qms": 5, "qes": 0.4, "vas_l": 14, "re_ohm": 3.6, "sd_cm2": 133, "xmax_mm": 6,
                           "power_w": 120, "nominal_ohm": 4}),
        ),
    ];
    let a = analysis(&small);
    let inches = a.wired.ports[0].realised.length / 0.0254;
    assert!((50.0..56.0).contains(&inches), "{inches}");
    let f = findings(&a).into_iter().find(|f| f.kind == "port_dead_end").expect("a dead end");
    for word in ["tube instead", "Tune to", "passive radiator", "A box of", "2 woofers"] {
        assert!(f.remedies.iter().any(|r| r.title.contains(word)), "{word}: {:#?}", f.remedies);
    }
    for remedy in &f.remedies {
        let mut document = serde_json::to_value(&a.design).unwrap();
        apply(&mut document, &remedy.changes);
        let after = Analysis::of(&read_value(document).unwrap());
        let kinds: Vec<String> = findings(&after).into_iter().map(|f| f.kind).collect();
        assert!(!kinds.contains(&"port_dead_end".into()), "{}: {kinds:?}", remedy.title);
    }
    // common practice: two such woofers in a larger box at 35 Hz ask for about 30 in, hard but possible: no dead end
    let mut shared = small.to_vec();
    shared.push(("/array/count", json!(2)));
    shared.push(("/enclosure/net_volume_l", json!(20)));
    shared.push(("/enclosure/port/sizing/tuning_hz", json!(35)));
    let b = analysis(&shared);
    let inches = b.wired.ports[0].realised.length / 0.0254;
    assert!((26.0..34.0).contains(&inches), "{inches}");
    assert!(findings(&b).iter().all(|f| f.kind != "port_dead_end"));
}

/// Common practice: a 100 mm (4 in) flared tube has a flange of about 184 mm and goes through a hole of 159 mm; half of each
/// flare counts as length.
#[test]
fn flange_and_hole_of_a_flared_tube() {
    let flare = json!({"kind": "flared", "radius_mm": 26});
    let a = whole(&[
        ("/enclosure/port/section/diameter_mm", json!(100)),
        ("/enclosure/port/wall_mm", json!(3.5)),
        ("/enclosure/port/inner_end", flare.clone()),
        ("/enclosure/port/outer_end", flare),
    ]);
    let port = &a.ports[0];
    assert!((port.hole_mm.unwrap() - 159.0).abs() < 1.0 && (port.flange_mm.unwrap() - 184.0).abs() < 1.0, "{port:?}");
    assert!((port.flares_mm - 52.0).abs() < 1e-9);
    // custom comes out longer, by less than an eighth of what the ends count
    let longer = port.by_custom_mm - port.length_mm;
    assert!(longer > 0.0 && longer < 0.13 * (port.inner_correction_mm + port.outer_correction_mm), "{longer}");
}

/// A clearance of one diameter at the inner end (common practice); elbows make room; a slot folded up the back goes in where
/// a straight one does not.
#[test]
fn what_goes_in() {
    let a = analysis(&[]);
    let report = &a.wired.ports[0];
    let shell = oak_drum_design::analysis::inside::Shell::of(&a);
    let there = fit::fit(&a, report, chamber_of(&a, report), &shell);
    assert!((there.room_mm - (449.0 + 18.0 - 105.0)).abs() < 1e-9);
    assert!(there.room_by_elbows_mm.windows(2).all(|pair| pair[1] > pair[0]), "{there:?}");
    let slot = [
        ("/enclosure/port/section", json!({"shape": "slot", "width_mm": 384, "height_mm": 40})),
        ("/enclosure/port/walls_alongside", json!(3)),
        ("/enclosure/port/wall_mm", json!(18)),
        ("/enclosure/port/inner_end", json!({"kind": "free"})),
        ("/enclosure/port/outer_end", json!({"kind": "flanged"})),
    ];
    let straight = analysis(&slot);
    let f = findings(&straight).into_iter().find(|f| f.kind == "port_will_not_fit").expect("too long for the depth");
    let fold = f.remedies.iter().find(|r| r.title.contains("elbow")).expect("a fold is offered");
    let folded = straight.with(&fold.changes).unwrap();
    assert!(findings(&folded).iter().all(|f| f.kind != "port_will_not_fit"));
}

/// Jets at the ends cost little at low level and more the louder it is; flares cost less (an estimate, so only its sense).
#[test]
fn the_port_compresses_more_the_louder_it_is() {
    let lost = |volts: f64, flared: bool| {
        let end = if flared { json!({"kind": "flared", "radius_mm": 26}) } else { json!({"kind": "flanged"}) };
        let a = analysis(&[
            ("/drive/volts", json!(volts)),
            ("/enclosure/port/inner_end", end.clone()),
            ("/enclosure/port/outer_end", end),
        ]);
        air_speed(&a, &a.wired.ports[0]).unwrap()
    };
    assert!(lost(0.1, false).lost_at_drive_db < 0.02);
    assert!(lost(30.0, false).lost_at_drive_db > 2.0 * lost(10.0, false).lost_at_drive_db);
    assert!(lost(20.0, true).lost_at_drive_db < lost(20.0, false).lost_at_drive_db);
    // at the most the other parts allow the air is faster than at a small drive, whatever the drive
    let (a, b) = (lost(5.0, true), lost(20.0, true));
    assert!((a.at_most_m_per_s.unwrap() / b.at_most_m_per_s.unwrap() - 1.0).abs() < 1e-6);
}

/// A port whose ends really count 1.3 times: what is measured at it leads back to 1.3, and the length proposed gives the
/// wanted tuning in that reality; so does solid filler.
#[test]
fn trimmed_to_a_measured_tuning() {
    let nominal = design(&[]);
    let built = Analysis::of(&nominal).wired.ports[0].realised.length * 1e3;
    let real = |more: &[Change]| {
        let mut document = serde_json::to_value(&nominal).unwrap();
        let mut changes = vec![
            Change::set("/enclosure/port/end_factor", 1.3),
            Change::set("/enclosure/port/sizing", json!({"by": "length", "length_mm": built})),
        ];
        changes.extend_from_slice(more);
        apply(&mut document, &changes);
        Analysis::of(&read_value(document).unwrap()).wired.ports[0].realised.tuning
    };
    let wish = TrimWish { pointer: "/enclosure/port".into(), measured_hz: real(&[]), wanted_hz: None, built_mm: None };
    let found = trim(&nominal, &wish).unwrap();
    assert!((found.factor - 1.3).abs() < 1e-3 && found.doubtful.is_none(), "{found:?}");
    assert!((found.expected_hz - 30.0).abs() < 1e-6 && wish.measured_hz < 30.0);
    // cut: longer ends, shorter tube
    assert!(found.ways[0].title.starts_with("Cut"), "{:?}", found.ways);
    let after = {
        let mut document = serde_json::to_value(&nominal).unwrap();
        apply(&mut document, &found.ways[0].changes);
        Analysis::of(&read_value(document).unwrap()).wired.ports[0].realised.length * 1e3
    };
    let cut = real(&[Change::set("/enclosure/port/sizing", json!({"by": "length", "length_mm": after}))]);
    assert!((cut - 30.0).abs() < 0.01, "{cut}");
    let filler = found.ways.iter().find(|w| w.title.starts_with("Fill")).unwrap();
    let volume = filler.changes.iter().find(|c| c.pointer.ends_with("net_volume_l")).unwrap();
    let filled = real(std::slice::from_ref(volume));
    // the box of other volume crowds the ends a little otherwise, hence not exactly
    assert!((filled - 30.0).abs() < 0.05, "{filled}");
    // a tuning that no end explains is called doubtful
    let odd = TrimWish { measured_hz: 20.0, ..wish.clone() };
    assert!(trim(&nominal, &odd).unwrap().doubtful.is_some());
    let nowhere = TrimWish { pointer: "/enclosure/front_port".into(), ..wish };
    assert!(trim(&nominal, &nowhere).is_err());
}

fn radiators(fs: f64) -> Checked {
    let enclosure = json!({"family": "passive_radiator", "net_volume_l": 60, "leak_q": 10, "radiators": {"count": 2, "fs_hz": fs,
        "qms": 6, "vas_l": 100, "sd_cm2": 350, "xmax_mm": 18, "added_mass_g": 150, "nut_g": 10}});
    design(&[("/enclosure", enclosure), ("/cabinet", Value::Null)])
}

/// Radiators heavier than their sheet says: the measured tuning leads to their real mass, and the weights proposed give the
/// wanted tuning.
#[test]
fn radiators_trimmed_by_weights() {
    let (sheet, real) = (radiators(17.0), radiators(15.5));
    let tuned = |d: &Checked| Analysis::of(d).wired.figures[0].value;
    let wish =
        TrimWish { pointer: "/enclosure/radiators".into(), measured_hz: tuned(&real), wanted_hz: None, built_mm: None };
    let found = trim(&sheet, &wish).unwrap();
    // mass goes with 1/fs² at the same suspension
    assert!((found.factor - (17.0f64 / 15.5).powi(2)).abs() < 1e-3, "{found:?}");
    assert!(found.ways[0].title.starts_with("Take"), "{:?}", found.ways);
    let mut document = serde_json::to_value(&real).unwrap();
    let mass = found.ways[0].changes.iter().find(|c| c.pointer.ends_with("added_mass_g")).unwrap();
    apply(&mut document, std::slice::from_ref(mass));
    assert!((tuned(&read_value(document).unwrap()) - tuned(&sheet)).abs() < 0.01);
}

/// What radiators must move is what the port's air would: U/ω; sizes go with the area.
#[test]
fn radiators_sized() {
    let found = airway(&radiators(17.0)).radiators.unwrap();
    let (needed, can) = (found.needed_cm3.unwrap(), found.can_cm3.unwrap());
    assert!((can - 2.0 * 350.0 * 1.8).abs() < 1e-6 && needed > found.at_drive_cm3 * 0.5);
    assert_eq!(found.count_needed.unwrap(), (needed / (can / 2.0)).ceil() as u32);
    for size in &found.sizes {
        assert!((size.excursion_of_one_mm * size.sd_cm2 / 10.0 / needed - 1.0).abs() < 1e-9);
    }
    assert!(found.weights.windows(2).all(|w| w[1].tuning_hz < w[0].tuning_hz));
}

/// Every tuned chamber of every family has its port designed, with a chamber of its own.
#[test]
fn every_tuned_chamber_is_served() {
    let all = oak_drum_design::suggest(&design(&[("/cabinet", Value::Null)]));
    let mut ports = 0;
    for enclosure in all.into_iter().filter_map(|s| s.enclosure) {
        let d = Design { enclosure, ..design(&[("/cabinet", Value::Null)]).into_design() };
        let d = Checked::assembled(d).unwrap();
        let found = airway(&d);
        for port in &found.ports {
            ports += 1;
            assert!(port.port_volume.is_some() && port.trade.is_some() && port.air.is_some(), "{}", port.pointer);
        }
        let a = Analysis::of(&d);
        for report in &a.wired.ports {
            let chamber = chamber_of(&a, report).unwrap();
            assert!(room_of(&a, report, chamber).is_none());
        }
    }
    assert!(ports > 6, "{ports}");
}

/// Of two ports each is told its own air, and the faster of them is the one of the lanes.
#[test]
fn each_port_has_its_own_air() {
    let all = oak_drum_design::suggest(&design(&[("/cabinet", Value::Null)]));
    let sixth = all.into_iter().filter_map(|s| s.enclosure).find(|e| e.info().id == "bandpass_sixth").unwrap();
    let d = Design { enclosure: sixth, ..design(&[("/cabinet", Value::Null)]).into_design() };
    let a = Analysis::of(&Checked::assembled(d).unwrap());
    assert_eq!(a.wired.ports.len(), 2);
    let speeds: Vec<f64> = a.wired.ports.iter().map(|report| air_speed(&a, report).unwrap().at_drive_m_per_s).collect();
    assert!((speeds[0] / speeds[1] - 1.0).abs() > 0.05, "{speeds:?}");
    // the faster of the two is what the lanes show
    let places = oak_drum_design::airway::speed::frequencies(&a, 96);
    let lanes = a.at_frequencies(&[], &places).unwrap().curves().air_speed.iter().copied().fold(0.0, f64::max);
    assert!((speeds[0].max(speeds[1]) / lanes - 1.0).abs() < 1e-9, "{speeds:?} against {lanes}");
}
