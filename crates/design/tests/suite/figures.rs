//! Figures that once were wrong, each held from outside; and figures that stand in two places, which are one figure.

use oak_drum_acoustics::driver::Woofer;
use oak_drum_design::Evaluation;
use oak_drum_design::airway::{airway, fit, speed};
use oak_drum_design::analysis::inside::{Shell, chamber_of};
use oak_drum_design::analysis::{Analysis, grid};
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::evaluation::findings::findings;
use oak_drum_design::quiet::quiet;
use oak_drum_design::woofer::in_box::in_box;
use oak_drum_document::{Change, Checked, apply, read_value};
use serde_json::{Value, json};
use std::f64::consts::{PI, TAU};

fn base() -> Value {
    json!({"format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1,
            "xmax_mm": 12, "power_w": 400, "nominal_ohm": 8, "cutout_mm": 280, "outside_diameter_mm": 315, "depth_mm": 150,
            "magnet_diameter_mm": 160},
        "enclosure": {"family": "sealed", "net_volume_l": 60},
        "drive": {"kind": "voltage", "volts": 10}})
}

fn design(changes: &[(&str, Value)]) -> Checked {
    let mut document = base();
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

fn result(changes: &[(&str, Value)]) -> Evaluation {
    evaluate(&design(changes))
}

fn tube(mm: f64, hz: f64) -> Value {
    json!({"section": {"shape": "round", "diameter_mm": mm}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": hz}})
}

fn sixth(leads: &str) -> (&'static str, Value) {
    let mut rear = tube(80.0, 33.0);
    rear["count"] = json!(2);
    (
        "/enclosure",
        json!({"family": "bandpass_sixth", "leads": leads, "rear_volume_l": 42, "front_volume_l": 15,
        "rear_port": rear, "front_port": tube(100.0, 72.0)}),
    )
}

fn horn(mouth: &str) -> Value {
    json!({"family": "front_horn", "rear_volume_l": 50, "horn": {"throat_cm2": 300, "mouth_cm2": 3000, "mouth": mouth,
        "wall_losses": false, "profile": {"shape": "exponential", "length_mm": 1600}}})
}

/// A woofer keeps its mass, its spring and its motor at 3 000 m; Vas goes as the pressure (ρc² = γp, ideal gas). So do passive
/// radiators: their mass and their own resonance stay. A consistent sheet is not called contradictory there.
#[test]
fn altitude_changes_the_air_alone() {
    let high = json!({"kind": "weather", "temperature_c": 20, "pressure_pa": 70000});
    let radiators = |air: Value| {
        result(&[
            ("/air", air),
            (
                "/enclosure",
                json!({"family": "passive_radiator", "net_volume_l": 50, "radiators": {"count": 1, "fs_hz": 20,
                "qms": 6, "vas_l": 150, "sd_cm2": 530, "added_mass_g": 60}}),
            ),
        ])
    };
    let (low, up) =
        (radiators(json!({"kind": "weather", "temperature_c": 20, "pressure_pa": 101325})), radiators(high.clone()));
    let (a, b) = (&low.summary.woofer, &up.summary.woofer);
    for (x, y) in
        [(a.mms_g, b.mms_g), (a.cms_mm_per_n, b.cms_mm_per_n), (a.bl_t_m, b.bl_t_m), (a.rms_n_s_per_m, b.rms_n_s_per_m)]
    {
        assert!((x / y - 1.0).abs() < 1e-12, "{x} {y}");
    }
    assert!((b.vas_l / a.vas_l / (70000.0 / 101325.0) - 1.0).abs() < 1e-9);
    let of = |e: &Evaluation, id: &str| e.summary.figures.iter().find(|f| f.id == id).unwrap().value;
    assert!((of(&low, "radiator_mass_g") / of(&up, "radiator_mass_g") - 1.0).abs() < 1e-12);
    assert!((of(&low, "notch_hz") / of(&up, "notch_hz") - 1.0).abs() < 1e-12);
    assert!(of(&up, "fb_hz") < of(&low, "fb_hz"), "softer air tunes lower");
    // what is measured there as expected leaves the radiators as they are
    let expected = of(&up, "fb_hz");
    let wish = serde_json::from_value(json!({"pointer": "/enclosure/radiators", "measured_hz": expected})).unwrap();
    let made = design(&[
        ("/air", high.clone()),
        (
            "/enclosure",
            json!({"family": "passive_radiator", "net_volume_l": 50, "radiators": {"count": 1, "fs_hz": 20,
            "qms": 6, "vas_l": 150, "sd_cm2": 530, "added_mass_g": 60}}),
        ),
    ]);
    let trimmed = oak_drum_design::airway::trim::trim(&made, &wish).unwrap();
    assert!((trimmed.factor - 1.0).abs() < 1e-6, "{}", trimmed.factor);
    let sheet = [("/woofer/mms_g", json!(a.mms_g)), ("/woofer/bl_t_m", json!(a.bl_t_m)), ("/air", high)];
    let there = result(&sheet);
    assert!(there.summary.contradictions.is_empty(), "{:?}", there.summary.contradictions);
    // air given outright, as for a tool that knows but one, reads the sheets in it too; said otherwise it does not
    let given = |too: bool| json!({"kind": "given", "speed_of_sound_m_per_s": 343.2, "density_kg_per_m3": 0.85, "sheets_too": too});
    assert!((result(&[("/air", given(false))]).summary.woofer.mms_g / a.mms_g - 1.0).abs() < 1e-9);
    assert!((result(&[("/air", given(true))]).summary.woofer.vas_l - 120.0).abs() < 1e-9);
}

/// One reckoning of the band: the summary's f3 is the passband's lower edge, gain and peak are one level, in horns and lines too.
#[test]
fn one_band() {
    for enclosure in [
        sixth("outside").1,
        json!({"family": "bandpass_fourth", "rear_volume_l": 30, "front_volume_l": 20, "front_port": tube(120.0, 60.0)}),
    ] {
        let e = result(&[("/enclosure", enclosure)]);
        let band = e.summary.passband.as_ref().expect("a band");
        assert_eq!(Some(band.lower_hz), e.summary.f3_hz);
        assert!(band.upper_hz > e.summary.peak_frequency_hz && band.lower_hz < e.summary.peak_frequency_hz);
        assert_eq!(e.summary.reference_level_db, e.summary.peak_level_db);
    }
    let e = result(&[("/enclosure", horn("half_space"))]);
    let list: Vec<f64> = (0..8000).map(|i| 1.0 + f64::from(i) * 149.0 / 7999.0).collect();
    let fine = result(&[("/enclosure", horn("half_space")), ("/frequencies_hz", json!(list))]);
    let top = fine.curves.level_db.iter().copied().fold(f64::MIN, f64::max);
    assert!((top - e.summary.peak_level_db).abs() < 0.01, "{top} {}", e.summary.peak_level_db);
}

/// Each chamber has losses of its own, each opening its own air: through a throat flows what the mouth's chain takes, at the
/// speed of its own area; equal ports share alike.
#[test]
fn every_opening_has_its_own_air() {
    let e = result(&[("/enclosure", horn("half_space"))]);
    let names: Vec<&str> = e.curves.openings.iter().map(|o| o.name.as_str()).collect();
    assert_eq!(names, ["mouth", "throat"]);
    for (i, fastest) in e.curves.air_speed_m_per_s.iter().enumerate() {
        let each = e.curves.openings.iter().map(|o| o.air_speed_m_per_s[i]).fold(0.0, f64::max);
        assert!((each / fastest - 1.0).abs() < 1e-9);
    }
    // the mouth alone is heard: its flow makes the level, p = ωρU/(2πr)
    let mouth = &e.curves.openings[0];
    for (i, f) in e.curves.frequency_hz.iter().enumerate() {
        let flow = mouth.air_speed_m_per_s[i] / 2f64.sqrt() * 0.3;
        let level = 20.0 * (TAU * f * e.conditions.density_kg_per_m3 * flow / TAU / 20e-6).log10();
        assert!((level - e.curves.level_db[i]).abs() < 1e-6);
    }
    // (near enough: leaks stand aside in this one)
    let one = |leak: &str| {
        let mut enclosure = sixth("outside").1;
        enclosure[leak] = json!(3);
        result(&[("/enclosure", enclosure)]).curves.level_db
    };
    let (rear, front, none) = (one("rear_leak_q"), one("front_leak_q"), result(&[sixth("outside")]).curves.level_db);
    let apart = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(x, y)| (x - y).abs()).fold(0.0, f64::max);
    assert!(apart(&rear, &front) > 0.3 && apart(&rear, &none) > 0.3 && apart(&front, &none) > 0.3);
}

/// The near field of an opening is that of its own flow: 2r/a above the far field of one of its equal holes (Keele 1974), and
/// an inner port has none. The sum of the openings outside, by their areas, is what is heard (no leaks here).
#[test]
fn near_fields_belong_to_their_openings() {
    for leads in ["outside", "front_chamber"] {
        let e = result(&[sixth(leads)]);
        let outside: Vec<_> = e.curves.openings.iter().filter(|o| o.outside).collect();
        assert_eq!(outside.len(), if leads == "outside" { 2 } else { 1 });
        assert!(e.curves.openings.iter().filter(|o| !o.outside).all(|o| o.near_field_db.is_empty()));
        for o in &outside {
            let radius = (o.area_cm2 * 1e-4 / f64::from(o.count) / PI).sqrt();
            for (i, f) in e.curves.frequency_hz.iter().enumerate() {
                let one = o.air_speed_m_per_s[i] / 2f64.sqrt() * o.area_cm2 * 1e-4 / f64::from(o.count);
                let far = TAU * f * e.conditions.density_kg_per_m3 * one / TAU;
                let near = 20.0 * (far * 2.0 / radius / 20e-6).log10();
                assert!((near - o.near_field_db[i]).abs() < 1e-6);
            }
        }
        if leads == "front_chamber" {
            let o = outside[0];
            for (i, level) in e.curves.level_db.iter().enumerate() {
                let radius = (o.area_cm2 * 1e-4 / PI).sqrt();
                assert!((o.near_field_db[i] - 20.0 * (2.0 / radius).log10() - level).abs() < 1e-6);
            }
        }
    }
}

/// Two woofers on opposite faces push the cabinet not at all; side by side they push as the sum; off one line they turn it
/// (Newton's third law: force is mass times acceleration, moment force times arm).
#[test]
fn opposed_woofers_cancel() {
    let with = |places: Value| {
        result(&[
            ("/array", json!({"count": 2})),
            ("/enclosure/net_volume_l", json!(120)),
            (
                "/cabinet",
                json!({"width_mm": 500, "height_mm": 700, "depth_mm": 520, "panel_mm": 18, "baffle_mm": 18, "woofers_at": places}),
            ),
            ("/frequencies_hz", json!([30, 60, 120])),
        ])
    };
    let spot = |face: &str, across: f64, up: f64| json!({"face": face, "across_mm": across, "up_mm": up});
    let same = with(json!([spot("baffle", 250.0, 180.0), spot("baffle", 250.0, 520.0)]));
    let opposed = with(json!([spot("baffle", 250.0, 350.0), spot("back", 250.0, 350.0)]));
    let sides = with(json!([spot("side", 260.0, 350.0), spot("side", 260.0, 350.0)]));
    let apart = with(json!([spot("baffle", 250.0, 180.0), spot("back", 250.0, 520.0)]));
    for i in 0..3 {
        let force = same.curves.shaking_force_n[i];
        // both cones: 2·Mms·ω²·x
        let excursion = same.curves.cone_excursion_mm[i] * 1e-3;
        let newton = 2.0 * same.summary.woofer.mms_g * 1e-3 * (TAU * same.curves.frequency_hz[i]).powi(2) * excursion;
        assert!((force / newton - 1.0).abs() < 1e-9, "{force} {newton}");
        for none in [&opposed, &sides, &apart] {
            assert!(none.curves.shaking_force_n[i] < force * 1e-9, "{}", none.curves.shaking_force_n[i]);
        }
        assert!(opposed.curves.shaking_moment_nm[i] < force * 1e-9);
        // half the force each, 0.17 m above and below the middle
        let moment = apart.curves.shaking_moment_nm[i];
        assert!((moment / (force * 0.17) - 1.0).abs() < 1e-9, "{moment} {force}");
    }
    // without a cabinet nothing is known of places
    assert!(result(&[]).curves.shaking_moment_nm.is_empty());
}

/// No more comes out than goes in, in every family and every solid angle; where mouth and listener stand in different spaces
/// nothing is told, and a finding says why.
#[test]
fn energy_balances() {
    let many = design(&[("/array", json!({"count": 8})), ("/woofer/qes", json!(0.2))]);
    let starts: Vec<_> = oak_drum_design::suggest(&many).into_iter().filter_map(|s| s.enclosure).collect();
    assert!(starts.len() > 15);
    for enclosure in starts {
        for angle in ["full", "half", "quarter", "eighth"] {
            let mut document = serde_json::to_value(&many).unwrap();
            document["enclosure"] = serde_json::to_value(&enclosure).unwrap();
            document["listening"]["solid_angle"] = json!(angle);
            let made = read_value(document).unwrap();
            let e = evaluate(&made);
            let told = &e.curves.efficiency_percent;
            let differs = e.findings.iter().flatten().any(|f| f.kind == "spaces_differ");
            assert_eq!(told.is_empty(), differs, "{} {angle}", enclosure.info().id);
            for (p, f) in told.iter().zip(&e.curves.frequency_hz) {
                assert!((0.0..=100.0).contains(p), "{} {angle} {f} Hz: {p} %", enclosure.info().id);
            }
        }
    }
    let e = result(&[("/enclosure", horn("eighth_space"))]);
    assert!(e.curves.efficiency_percent.is_empty() && e.findings.iter().flatten().any(|f| f.kind == "spaces_differ"));
    // a lossless front horn turns into sound what does not heat the coil or the suspension: the whole of what its mouth takes
    let e = result(&[("/enclosure", horn("half_space"))]);
    for (i, f) in e.curves.frequency_hz.iter().enumerate().filter(|(_, f)| (60.0..300.0).contains(*f)) {
        let z = e.curves.impedance_ohm[i];
        let real = z * e.curves.impedance_phase_deg[i].to_radians().cos();
        let coil = 5.6 / real;
        let velocity = TAU * f * e.curves.cone_excursion_mm[i] * 1e-3 / 2f64.sqrt();
        let rubbed = e.summary.woofer.rms_n_s_per_m * velocity.powi(2) / (100.0 * real / (z * z));
        let sound = e.curves.efficiency_percent[i] / 100.0;
        assert!((coil + rubbed + sound - 1.0).abs() < 2e-3, "{f} Hz: {coil} {rubbed} {sound}");
    }
}

/// A port with an elbow has the room of where it stands: its course, walked leg by leg, stays inside with its size across and
/// keeps its clearance, at every height; and the room changes with the height.
#[test]
fn an_elbow_has_the_room_of_its_place() {
    let mut rooms = Vec::new();
    for up in [120.0, 200.0, 300.0, 400.0, 560.0] {
        let mut port = tube(80.0, 30.0);
        port["elbows"] = json!(1);
        let made = design(&[
            ("/enclosure", json!({"family": "vented", "net_volume_l": 90, "port": port})),
            (
                "/cabinet",
                json!({"width_mm": 400, "height_mm": 680, "depth_mm": 450, "panel_mm": 18, "baffle_mm": 18,
                "openings_at": [{"face": "baffle", "across_mm": 90, "up_mm": up}]}),
            ),
        ]);
        let a = Analysis::of(&made);
        let report = &a.wired.ports[0];
        let shell = Shell::of(&a);
        let stands = fit::stands(&a, report);
        assert_eq!(stands, Some([72.0, up - 18.0]));
        let room = fit::room(&shell, &report.port, stands, 1);
        assert_eq!(room, fit::fit(&a, report, chamber_of(&a, report), &shell).room_mm);
        let course = fit::course(&shell, &report.port, room, stands);
        let end = course.line_mm.last().unwrap();
        assert!((course.inside_mm[1] - end[1] - course.free_mm).abs() < 1e-6, "{course:?}");
        for p in &course.line_mm[1..] {
            assert!(p[0] <= course.inside_mm[0] - course.outside_mm / 2.0 + 1e-9);
        }
        rooms.push(room);
    }
    // the further from the middle, the longer the way to the wall it turns toward
    assert!(rooms[0] > rooms[1] && rooms[1] > rooms[2] && rooms[4] > rooms[3], "{rooms:?}");
}

/// The gap that a loss factor means, by its definition for each chamber: Q = R·ω·C with the chamber's own compliance and
/// tuning, R that of a laminar slit 0.5 mm wide through 18 mm (12μt/(A·w²)).
#[test]
fn leaks_of_both_chambers() {
    let q = quiet(&design(&[(
        "/enclosure",
        json!({"family": "bandpass_fourth", "rear_volume_l": 30, "front_volume_l": 20, "front_port": tube(120.0, 60.0)}),
    )]));
    let (c, rho, viscosity) = (343.2146, 1.20412, 1.8133e-5);
    let fc = 30.0 * (1.0f64 + 120.0 / 30.0).sqrt();
    for (leaks, (litres, hz)) in q.leaks.iter().zip([(30.0, fc), (20.0, 60.0)]) {
        assert!((leaks.at_hz / hz - 1.0).abs() < 1e-6, "{} {hz}", leaks.at_hz);
        let row = leaks.rows.iter().find(|r| r.q == 10.0).unwrap();
        let resistance = 10.0 / (TAU * hz * litres * 1e-3 / (rho * c * c));
        let area = 12.0 * viscosity * 0.018 / (resistance * 0.25e-6) * 1e6;
        assert!((row.gap_mm2 / area - 1.0).abs() < 2e-3, "{} {area}", row.gap_mm2);
    }
    assert_eq!(
        q.leaks.iter().map(|l| l.pointer.as_str()).collect::<Vec<_>>(),
        ["/enclosure/rear_leak_q", "/enclosure/front_leak_q"]
    );
}

/// Waves along a conical path, closed at its wide end: the closed form tan(k·L) = k·R1·(...) of spherical waves with the open
/// end's correction as a length, solved here by bisection. A woofer where the pressure of a wave rests drives it not.
#[test]
fn waves_along_a_taper() {
    let (s1, s2, length): (f64, f64, f64) = (0.09, 0.03, 2.0);
    let stations: Vec<Value> = (0..=39)
        .map(|i| f64::from(i) / 39.0)
        .map(|t| json!({"at_mm": 2000.0 * t, "area_cm2": (s1.sqrt() + (s2.sqrt() - s1.sqrt()) * t).powi(2) * 1e4}))
        .collect();
    let line = json!({"family": "transmission_line", "length_mm": 2000, "woofer_at_mm": 0, "mouth": "free",
        "profile": {"shape": "free", "stations": stations}});
    let q = quiet(&design(&[("/enclosure", line), ("/listening/solid_angle", json!("full"))]));
    let c = 343.2146;
    // distances from the apex: closed at R1, open at R2; p = sin(k(r - R2) + φ)/r, p + δ·p' = 0 at R2 outward
    let apex = length * s1.sqrt() / (s1.sqrt() - s2.sqrt());
    let (r1, r2) = (apex, apex - length);
    let delta = 0.6133 * (s2 / PI).sqrt();
    let error = |f: f64| {
        let k = TAU * f / c;
        // u = r·p = A·sin(kx) + B·cos(kx), x = r - r2; the mass δ at the end: p = δ·dp/dr there
        // dp/dr at r2 = (k·A - B/r2)/r2, p = B/r2
        let b = 1.0;
        let a = (b / delta + b / r2) / k;
        let x = r1 - r2;
        let (sin, cos) = (k * x).sin_cos();
        // dp/dr = 0 at r1: r1·u' = u
        r1 * k * (a * cos - b * sin) - (a * sin + b * cos)
    };
    let mut found = Vec::new();
    let mut f = 5.0;
    while found.len() < 4 {
        if error(f) * error(f + 0.5) < 0.0 {
            let (mut low, mut high) = (f, f + 0.5);
            for _ in 0..60 {
                let middle = 0.5 * (low + high);
                if error(middle) * error(low) > 0.0 { low = middle } else { high = middle }
            }
            found.push(low);
        }
        f += 0.5;
    }
    for (wave, hz) in q.path.iter().zip(&found) {
        assert!((wave.frequency_hz / hz - 1.0).abs() < 2e-3, "{} {hz}", wave.frequency_hz);
        // narrowing lifts the pressure of the higher waves toward the open end
        assert!((0.5..=1.0).contains(&wave.woofer), "{wave:?}");
    }
    assert!(q.path[0].swing_db.is_none() && q.path[1].swing_db.is_some());
    // (common practice) at a third of a straight line the second wave is missed; well stuffed, little of the waves is left
    let straight = |at: f64, fills: Value| {
        let line = json!({"family": "transmission_line", "length_mm": 2400, "woofer_at_mm": at, "fills": fills,
            "profile": {"shape": "straight", "area_cm2": 530}});
        quiet(&design(&[("/enclosure", line)])).path
    };
    let third = straight(2400.0 / 3.0 + 30.0, json!([]));
    assert!(third[1].missed && !third[0].missed, "{third:?}");
    let wool = json!([{"from_mm": 0, "to_mm": 2400, "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 6000}}]);
    let (bare, stuffed) = (straight(0.0, json!([])), straight(0.0, wool));
    assert!(stuffed[2].swing_db.unwrap() < 0.25 * bare[2].swing_db.unwrap(), "{bare:?} {stuffed:?}");
}

/// One figure of the fastest air, wherever it stands: in the summary, at Airway, in the finding; never from below the lowest
/// note, and equal to the curve's own highest within its band.
#[test]
fn the_fastest_air_is_one_figure() {
    let changes = [
        ("/enclosure", json!({"family": "vented", "net_volume_l": 90, "port": tube(80.0, 26.0)})),
        ("/brief", json!({"lowest_note_hz": 24, "port_air_m_per_s": 12})),
    ];
    let made = design(&changes);
    let e = evaluate(&made);
    let told = e.summary.fastest_air_m_per_s.unwrap();
    let port = &airway(&made).ports[0];
    assert_eq!(port.air.as_ref().unwrap().at_drive_m_per_s, told);
    let a = Analysis::of(&made);
    let f = findings(&a).into_iter().find(|f| f.kind == "port_air_fast").unwrap();
    assert_eq!(f.figure.value, told);
    let (from, to) = speed::band(&a);
    assert_eq!(from, 24.0);
    let list: Vec<f64> = (0..4000).map(|i| from + (to - from) * f64::from(i) / 3999.0).collect();
    let mut dense = changes.to_vec();
    dense.push(("/frequencies_hz", json!(list)));
    let highest = result(&dense).curves.air_speed_m_per_s.iter().copied().fold(0.0, f64::max);
    assert!((told / highest - 1.0).abs() < 1e-3, "{told} {highest}");
    // and one limit: the brief's
    assert_eq!((e.ports[0].air_limit_m_per_s, e.curves.openings[0].limit_m_per_s), (12.0, Some(12.0)));
}

/// Sixteen radiators are the most that can be stated: twice twelve are not offered.
#[test]
fn no_remedy_oversteps_the_format() {
    let a = Analysis::of(&design(&[
        ("/drive/volts", json!(60)),
        (
            "/enclosure",
            json!({"family": "passive_radiator", "net_volume_l": 50, "radiators": {"count": 12, "fs_hz": 20,
            "qms": 6, "vas_l": 20, "sd_cm2": 60, "xmax_mm": 1, "added_mass_g": 20}}),
        ),
    ]));
    let f = findings(&a).into_iter().find(|f| f.kind == "radiator_over_limit").expect("driven too far");
    assert!(!f.remedies.is_empty() && f.remedies.iter().all(|r| !r.title.contains("Twice as many")), "{f:#?}");
}

/// A box is as deep as its section says when it holds what is wanted: a plain one, one with a port and a brace, a smaller one, a
/// stepped and a sloped one. A tube is as deep as it is wide, whatever is wanted.
#[test]
fn a_cabinet_as_deep_as_its_section_holds_what_is_wanted() {
    let plain = json!({"width_mm": 400, "height_mm": 500, "depth_mm": 420, "panel_mm": 18, "baffle_mm": 25});
    let ported = json!({"family": "vented", "net_volume_l": 70, "port": tube(102.0, 28.0)});
    let cases = [
        vec![("/cabinet", plain.clone())],
        vec![
            ("/cabinet", plain.clone()),
            ("/enclosure", ported),
            ("/woofer/displacement_l", json!(4.0)),
            (
                "/cabinet/braces",
                json!([{"kind": "window", "lies": "frontal", "at_mm": 150, "thickness_mm": 18, "open_part": 0.5}]),
            ),
        ],
        vec![("/cabinet", plain.clone()), ("/enclosure/net_volume_l", json!(25))],
        vec![("/cabinet", plain.clone()), ("/cabinet/shape", json!({"kind": "stepped", "at_mm": 250, "back_mm": 40}))],
        vec![("/cabinet", plain.clone()), ("/cabinet/shape", json!({"kind": "sloped", "back_mm": 60}))],
    ];
    for case in cases {
        let there = result(&case);
        let section = there.section.unwrap();
        assert!(section.follows);
        let wanted = there.ledger.unwrap().wanted_net_l;
        assert!((section.net_l - wanted).abs() < 1e-9, "{} for {wanted}", section.net_l);
        let depth = section.depth_mm + section.panel_mm + section.baffle_mm;
        let deep = [case.clone(), vec![("/cabinet/depth_mm", json!(depth))]].concat();
        let net = result(&deep).ledger.unwrap().net_l;
        assert!((net - wanted).abs() < 0.002 * wanted, "{net} L for {wanted} L in {depth} mm");
        let deeper = [case, vec![("/cabinet/depth_mm", json!(depth + 10.0))]].concat();
        let more = result(&deeper).ledger.unwrap().net_l - net;
        assert!((more - 10.0 * section.l_per_mm).abs() < 1e-6, "{more} L for 10 mm");
    }
    let tube = [("/cabinet", plain), ("/cabinet/shape", json!({"kind": "tube", "wall_mm": 8}))];
    let round = result(&tube).section.unwrap();
    let more = result(&[&tube[..], &[("/enclosure/net_volume_l", json!(90))]].concat()).section.unwrap();
    assert!(!round.follows && round.depth_mm == more.depth_mm && more.net_l > round.net_l);
    // the assumed box around its air, and what has no one depth
    let assumed = result(&[]).section.unwrap();
    assert!((assumed.l_per_mm * assumed.depth_mm / 60.0 - 1.06).abs() < 1e-6);
    assert_eq!(result(&[sixth("outside")]).section, None);
}

/// What parameter sets do in a box is what evaluations of that box with each of them say.
#[test]
fn parameter_sets_in_a_box_are_what_their_evaluations_say() {
    let here = design(&[("/brief", json!({"lowest_note_hz": 25}))]);
    let stiffer = Woofer { fs_hz: Some(36.0), qes: Some(0.48), qms: Some(6.0), ..here.woofer.clone() };
    let unfinished = Woofer { vas_l: None, ..here.woofer.clone() };
    let told = in_box(&here, &[here.woofer.clone(), unfinished, stiffer.clone()]).sets;
    let frequencies: Vec<f64> = grid().to_vec();
    let levels = |woofer: &Woofer| {
        let sheet = serde_json::to_value(woofer).unwrap();
        let there = result(&[("/woofer", sheet), ("/frequencies_hz", json!(frequencies))]);
        (there.summary.f3_hz, there.curves.level_db)
    };
    let ((first_f3, first), (f3, second)) = (levels(&here.woofer), levels(&stiffer));
    assert_eq!(told[0].as_ref().unwrap().f3_hz, first_f3);
    assert_eq!((&told[0].as_ref().unwrap().shift, told[1].is_none()), (&None, true));
    let last = told[2].as_ref().unwrap();
    assert_eq!((last.f3_hz, last.woofer.fs_hz), (f3, 36.0));
    let apart = first.iter().zip(&second).map(|(a, b)| b - a);
    let within = frequencies.iter().zip(apart).filter(|(f, _)| (25.0..=200.0).contains(*f));
    let most = within.fold((0.0, 0.0), |m: (f64, f64), (f, by)| if by.abs() > m.1.abs() { (*f, by) } else { m });
    let shift = last.shift.unwrap();
    assert!((shift.at_hz - most.0).abs() < 1e-9 && (shift.by_db - most.1).abs() < 1e-9, "{shift:?} for {most:?}");
    assert!(shift.by_db.abs() > 0.5, "{shift:?}");
}
