//! Rooms, boundaries and cabins against finite elements (testdata/room/scikit-fem), image sources, published factors and values
//! computed outside this project by two routes.

use approx::assert_relative_eq;
use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure};
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::network::plain;
use oak_drum_acoustics::outputs::{Conditions, Limits, Sweep};
use oak_drum_acoustics::room::boundary::{self, Plane};
use oak_drum_acoustics::room::field::Field;
use oak_drum_acoustics::room::partition::{self, Partition};
use oak_drum_acoustics::room::{Shoebox, cabin, gain_db, images, sabine};
use oak_drum_acoustics::source::Source;
use serde_json::Value;
use std::f64::consts::{PI, TAU};

fn air() -> Air {
    Air::given(343.2, 1.2041)
}

fn living_room() -> Shoebox {
    Shoebox::with_time([6.0, 4.0, 2.5], 0.5, air())
}

const SOURCE: [f64; 3] = [0.5, 0.6, 0.4];
const SEAT: [f64; 3] = [4.2, 2.2, 1.2];
const BASS: [f64; 5] = [15.0, 28.6, 43.0, 70.0, 120.0];

/// Values computed by image sources and by modes outside this project, which agree to 1e-7.
#[test]
fn a_living_room_as_computed_elsewhere() {
    let room = living_room();
    let expected = [
        (5.550997, -34.25782),
        (-95.47484, -14.65830),
        (-25.32754, 12.66007),
        (12.88626, 14.76461),
        (-90.87813, -31.32259),
    ];
    let gains = [17.9490, 21.2347, 7.0341, -0.3950, 8.7361];
    let distance = (0..3).map(|i| f64::powi(SOURCE[i] - SEAT[i], 2)).sum::<f64>().sqrt();
    assert_relative_eq!(distance, 4.10974, epsilon = 1e-5);
    for ((f, (re, im)), gain) in BASS.iter().zip(expected).zip(gains) {
        let p = room.transfer(TAU * f, SOURCE, SEAT);
        assert!((p - Complex64::new(re, im)).norm() < 2e-6 * p.norm(), "{f} Hz: {p}");
        assert_relative_eq!(gain_db(&room.air, TAU * f, p, distance), gain, epsilon = 1e-4);
    }
    let level = |p: Complex64| 20.0 * p.norm().log10();
    let leaky = room.leaking(Some(3.0));
    assert_relative_eq!(level(leaky.transfer(TAU * 4.0, SOURCE, SEAT)), 37.7313, epsilon = 1e-4);
    assert_relative_eq!(level(leaky.transfer(TAU * 15.0, SOURCE, SEAT)), 30.9952, epsilon = 1e-4);
    // a second source 3 ms later
    let sums = [34.4994, 38.8896, 37.0649, 15.6509, 45.4757];
    for (f, sum) in BASS.iter().zip(sums) {
        let omega = TAU * f;
        let late = Complex64::from_polar(1.0, -omega * 3e-3);
        let p = room.transfer(omega, SOURCE, SEAT) + late * room.transfer(omega, [5.5, 0.6, 0.4], SEAT);
        assert_relative_eq!(level(p), sum, epsilon = 1e-4);
    }
    assert_relative_eq!(cabin::crossing_by_volume(&room.air, TAU, distance, 60.0), 35.8335, max_relative = 2e-6);
    assert_relative_eq!(room.schroeder(), 182.6, epsilon = 0.05);
    assert_relative_eq!(room.decays[0], 13.8155, epsilon = 1e-4);
    assert_relative_eq!(room.corner(), 13.8155 / PI, epsilon = 1e-4);
    assert_relative_eq!(sabine(&room.air, 60.0, 12.0), 0.805100, max_relative = 1e-6);
    let lowest: Vec<f64> = room.modes(72.0).iter().map(|m| m.frequency).collect();
    let known = [28.6, 42.9, 51.5594, 57.2, 68.64, 71.5];
    for k in known {
        assert!(lowest.iter().any(|f| (f / k - 1.0).abs() < 1e-5), "{k} Hz in {lowest:?}");
    }
    assert_eq!(room.modes(60.0).len(), 4);
    assert_eq!(room.modes(60.0)[2].order, [1, 1, 0]);
}

/// From walls one by one: the published rule's values; what stands open adds Sabine's share.
#[test]
fn walls_one_by_one() {
    let beta = [[0.01, 0.02], [0.015, 0.01], [0.02, 0.005]];
    let room = Shoebox::with_walls([6.0, 4.0, 2.5], beta.map(|pair| pair.map(|b| 8.0 * b)), 0.0, air());
    for (order, decay) in [([1, 0, 0], 4.5045), ([1, 1, 0], 5.5770), ([1, 1, 1], 7.2930)] {
        assert_relative_eq!(room.mode(order).decay, decay, epsilon = 1e-4);
    }
    // alike on all walls, the oblique modes decay as Sabine says
    let even = Shoebox::with_walls([6.0, 4.0, 2.5], [[0.12; 2]; 3], 1.5, air());
    let area = 2.0 * (6.0 * 4.0 + 6.0 * 2.5 + 4.0 * 2.5);
    assert_relative_eq!(even.t60(), sabine(&air(), 60.0, 0.12 * area + 1.5), max_relative = 1e-9);
    assert_relative_eq!(even.mode([2, 1, 3]).t60(), even.t60(), max_relative = 1e-12);
}

/// A finite-element solution with rigid walls (a point source on quadratic elements of 0.3 m): within 0.1 dB and 1 degree at two
/// places and six frequencies. With yielding walls the modes' rule is an estimate: within a tenth (0.9 dB) of the pressure or, in
/// dips, of the rms over all; the exact axial decays within 2 %.
#[test]
fn finite_elements() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/room/scikit-fem/room.json")).unwrap();
    let place = |v: &Value| [0, 1, 2].map(|i| v[i].as_f64().unwrap());
    let source = place(&data["source_m"]);
    let walls = [0, 1, 2].map(|i| [0, 1].map(|j| data["absorption"][i][j].as_f64().unwrap()));
    let sides = place(&data["sides_m"]);
    let rigid = Shoebox::with_time(sides, data["t60_s"].as_f64().unwrap(), air());
    let yielding = Shoebox::with_walls(sides, walls, 0.0, air());
    let complex = |v: &Value| Complex64::new(v[0].as_f64().unwrap(), v[1].as_f64().unwrap());
    let mut compared = 0;
    for (name, room, within) in [("rigid_pa_s_per_m3", &rigid, 0.012), ("yielding_pa_s_per_m3", &yielding, 0.1)] {
        let all: Vec<Complex64> =
            data[name].as_array().unwrap().iter().flat_map(|row| [complex(&row[0]), complex(&row[1])]).collect();
        let rms = (all.iter().map(Complex64::norm_sqr).sum::<f64>() / all.len() as f64).sqrt();
        for (i, f) in data["frequency_hz"].as_array().unwrap().iter().enumerate() {
            for (j, seat) in data["places_m"].as_array().unwrap().iter().enumerate() {
                let theirs = all[2 * i + j];
                let ours = room.transfer(TAU * f.as_f64().unwrap(), source, place(seat));
                let held = if within < 0.05 { theirs.norm() } else { theirs.norm().max(rms) };
                let off = (ours - theirs).norm() / held;
                assert!(off < within, "{name} {f} Hz, place {j}: {ours} {theirs}, {off}");
                compared += 1;
            }
        }
    }
    assert_eq!(compared, 24);
    let axial = data["axial_decay_per_s"].as_array().unwrap();
    for (theirs, order) in axial.iter().zip([[1, 0, 0], [2, 0, 0], [0, 1, 0]]) {
        // one axis alone: what the other walls take of a wave along them is left out there
        let along = order.iter().position(|n| *n > 0).unwrap();
        let alone = air().c * (walls[along][0] + walls[along][1]) / 8.0 / sides[along];
        assert_relative_eq!(alone, theirs.as_f64().unwrap(), max_relative = 0.02);
        assert!(yielding.mode(order).decay > alone);
    }
}

/// Image sources and modes are the same sum, whichever axis is closed; also in a large damped hall and at its walls.
#[test]
fn images_agree() {
    // so much taken that images beyond a hundred metres are nothing
    let dead = Shoebox::with_time([6.0, 4.0, 2.5], 0.1, air());
    let hall = Shoebox::with_time([22.0, 13.0, 5.5], 0.14, air());
    let rooms = [
        (dead, [[0.5, 0.6, 0.4], [4.2, 2.2, 1.2], [0.5, 3.9, 1.3], [0.6, 0.5, 2.3], [0.0, 0.0, 0.0]], 80.0),
        (hall, [[1.0, 1.5, 0.5], [14.0, 6.0, 1.2], [2.0, 12.0, 1.2], [1.0, 1.7, 5.2], [22.0, 13.0, 0.0]], 110.0),
    ];
    for (room, places, reach) in rooms {
        for (i, from) in places.iter().enumerate() {
            for to in &places[i + 1..] {
                for f in [12.0, 31.0, 64.0, 117.0] {
                    let exact = images::transfer(&room, TAU * f, *from, *to, reach);
                    let ours = room.transfer(TAU * f, *from, *to);
                    let off = (ours - exact).norm() / exact.norm();
                    assert!(off < 2e-3, "{:?} {from:?} {to:?} {f} Hz: {ours} {exact}", room.sides);
                }
            }
        }
    }
}

/// A source and a listener may change places (Rayleigh's reciprocity), whatever the walls and the leak.
#[test]
fn places_may_be_exchanged() {
    let room =
        Shoebox::with_walls([5.0, 3.7, 2.4], [[0.1, 0.4], [0.05, 0.2], [0.3, 0.1]], 0.8, air()).leaking(Some(5.0));
    for f in [8.0, 33.0, 71.0] {
        let there = room.transfer(TAU * f, SOURCE, [4.1, 3.0, 1.1]);
        let back = room.transfer(TAU * f, [4.1, 3.0, 1.1], SOURCE);
        assert!((there - back).norm() < 1e-9 * there.norm());
    }
}

/// The map is the single place's sum over a whole plane: within 0.05 dB where it lies half a metre and more from the seat, within
/// 0.3 dB beside it, at equal heights too; deep nulls are held by the pressure they lack.
#[test]
fn a_map_is_many_places() {
    let plain = living_room();
    let walls =
        Shoebox::with_walls([5.0, 3.7, 2.4], [[0.1, 0.4], [0.05, 0.2], [0.3, 0.1]], 0.0, air()).leaking(Some(4.0));
    let hall = Shoebox::with_time([30.0, 16.0, 6.0], 1.1, air());
    for (room, height) in [(plain, 0.3), (plain, 1.2), (walls, 0.25), (hall, 0.5)] {
        let seat = [room.sides[0] * 0.7, room.sides[1] * 0.45, 1.2];
        let along = |side: f64, n: usize| (0..n).map(|i| (i as f64 + 0.5) / n as f64 * side).collect::<Vec<f64>>();
        let (x, y) = (along(room.sides[0], 15), along(room.sides[1], 9));
        let field = Field::new(&room, &x, &y, height, seat);
        for f in [11.0, 34.0, 80.0, 118.0] {
            let map = field.transfer(TAU * f);
            let loud = (map.iter().map(|p| p.norm_sqr()).sum::<f64>() / map.len() as f64).sqrt();
            for (i, p) in map.iter().enumerate() {
                let at = [x[i % x.len()], y[i / x.len()], height];
                let exact = room.transfer(TAU * f, at, seat);
                let apart = (0..3).map(|k| (at[k] - seat[k]).powi(2)).sum::<f64>().sqrt();
                let within = if apart < 0.5 { 0.035 } else { 0.006 };
                let off = (p - exact).norm() / exact.norm().max(loud);
                assert!(off < within, "{:?} at {at:?}, {apart:.2} m off, {f} Hz: {off}", room.sides);
            }
        }
    }
}

/// Below its lowest mode a tight room is a vessel: ρc²/(ωV), 6 dB an octave for a volume velocity, so 12 for the second
/// derivative a cone's constant acceleration is (common practice); with a leak no more.
#[test]
fn the_pressure_zone_is_a_vessel() {
    let room = Shoebox::with_time([6.0, 4.0, 2.5], 3.0, air()).leaking(Some(0.0));
    for f in [2.0, 4.0] {
        let p = room.transfer(TAU * f, SOURCE, SEAT).norm();
        let vessel = air().bulk_modulus() / (TAU * f * room.volume());
        assert_relative_eq!(p, vessel, max_relative = 0.03);
    }
    // against the open field, whose pressure falls 6 dB an octave with the volume velocity
    let gain = |f: f64| gain_db(&air(), TAU * f, room.transfer(TAU * f, SOURCE, SEAT), 4.0);
    assert_relative_eq!(gain(2.0) - gain(4.0), 12.0, epsilon = 0.3);
    let leaky = room.leaking(Some(40.0));
    let gain = |f: f64| gain_db(&air(), TAU * f, leaky.transfer(TAU * f, SOURCE, SEAT), 4.0);
    assert_relative_eq!(gain(1.0) - gain(2.0), 6.0, epsilon = 0.3);
    // a room of 6 m has its first mode near 28.6 Hz (common practice: c/2L)
    assert_relative_eq!(room.modes(30.0)[0].frequency, 28.6, epsilon = 0.01);
}

/// Cabin gain as computed elsewhere; far below it rises 12 dB an octave, 6 below the leak.
#[test]
fn a_cabin() {
    assert_relative_eq!(cabin::crossing_by_volume(&air(), TAU, 1.5, 3.0), 96.8149, max_relative = 1e-6);
    for (f, gain) in [(10.0, 30.1611), (20.0, 18.8782), (40.0, 7.7704), (80.0, 1.1898)] {
        assert_relative_eq!(cabin::gain_db(f, 60.0, 5.0), gain, epsilon = 1e-4);
    }
    let octave = |f: f64, leak: f64| cabin::gain_db(f, 60.0, leak) - cabin::gain_db(2.0 * f, 60.0, leak);
    assert_relative_eq!(octave(5.0, 0.0), 12.04, epsilon = 0.01);
    assert_relative_eq!(octave(0.5, 20.0), 6.02, epsilon = 0.05);
    assert_relative_eq!(cabin::crossing_by_length(&air(), 6.0), 28.6, epsilon = 1e-9);
}

/// Boundary gain is that of the solid angle: 2, 4 and 8 times the pressure on one, two and three rigid planes, and as many times the
/// power; off them as computed elsewhere.
#[test]
fn boundaries() {
    let planes = [0, 1, 2].map(|axis| Plane::taking(axis, 0.0, 0.0));
    for n in 0..=3usize {
        let factor = f64::from(1 << n);
        let near = boundary::transfer(&air(), &planes[..n], TAU * 30.0, [1e-4; 3], [2.0, 1.5, 1.0]).norm();
        let free = boundary::transfer(&air(), &[], TAU * 30.0, [1e-4; 3], [2.0, 1.5, 1.0]).norm();
        assert_relative_eq!(near / free, factor, max_relative = 1e-3);
        assert_relative_eq!(
            boundary::power_factor(&air(), &planes[..n], TAU * 30.0, [1e-4; 3]),
            factor,
            max_relative = 1e-6
        );
        // jωρU/(Ωr) with the solid angle's Ω
        let omega = 4.0 * PI / factor;
        let r = (4.0f64 + 2.25 + 1.0).sqrt();
        assert_relative_eq!(near, TAU * 30.0 * air().rho / (omega * r), max_relative = 1e-3);
    }
    let expected = [
        [1.95048, 1.81069, 1.52787, 1.14028],
        [3.80339, 3.26500, 2.25843, 1.10654],
        [7.41460, 5.85989, 3.18244, 0.68876],
    ];
    for (n, row) in expected.iter().enumerate() {
        for (f, factor) in [30.0, 60.0, 100.0, 150.0].iter().zip(row) {
            let ours = boundary::power_factor(&air(), &planes[..=n], TAU * f, [0.5; 3]);
            assert_relative_eq!(ours, *factor, epsilon = 1e-5);
        }
    }
    // the wall behind cancels on the axis at c/(4d)
    let wall = [Plane::taking(0, 0.0, 0.0)];
    let notch = air().c / (4.0 * 1.1);
    let level = |f: f64| boundary::transfer(&air(), &wall, TAU * f, [1.1, 0.0, 0.0], [500.0, 0.0, 0.0]).norm();
    assert!(level(notch) < 0.01 * level(notch / 2.0));
}

/// In a large room that takes nearly all, the nearest walls' images and the whole room agree; alike for a room open on all other
/// sides.
#[test]
fn a_damped_hall_is_its_nearest_walls() {
    let room = Shoebox::with_time([60.0, 50.0, 40.0], 1.0, air());
    let (from, to) = ([1.0, 0.8, 0.6], [3.0, 2.5, 1.2]);
    let planes = [0, 1, 2].map(|axis| Plane::taking(axis, 0.0, 0.0));
    for f in [20.0, 35.0, 50.0] {
        let near = boundary::transfer(&air(), &planes, TAU * f, from, to).norm();
        let all = room.transfer(TAU * f, from, to).norm();
        assert!((20.0 * (near / all).log10()).abs() < 1.0, "{f} Hz: {near} {all}");
    }
}

/// The mass law's field incidence is the mean over angles up to 78 degrees (quadrature) within 1.5 dB, and 20·log10(f·m) - 47 (the
/// form handbooks print) within 0.5 dB.
#[test]
fn the_mass_law() {
    let z = air().rho * air().c;
    for (m, f) in [(44.0, 50.0), (225.0, 31.5), (420.0, 63.0)] {
        let ours = partition::loss_db(&air(), m, f);
        assert_relative_eq!(ours, 20.0 * f64::log10(f * m) - 47.0, epsilon = 0.5);
        let n = 20_000;
        let (mut through, mut all) = (0.0, 0.0);
        for i in 0..n {
            let angle = (f64::from(i) + 0.5) / f64::from(n) * 78f64.to_radians();
            let weight = angle.sin() * angle.cos();
            through += weight / (1.0 + (PI * f * m * angle.cos() / z).powi(2));
            all += weight;
        }
        assert_relative_eq!(ours, -10.0 * f64::log10(through / all), epsilon = 1.5);
    }
    assert_eq!(partition::loss_db(&air(), 1.0, 1.0), 0.0);
    // by thickness and density (common practice): concrete 180 mm of 2350 kg/m³, a brick of 240 mm of 1800, two panes of 4 mm of 2500
    for (which, mass) in [
        (Partition::Concrete, 0.18 * 2350.0),
        (Partition::WholeBrick, 0.24 * 1800.0),
        (Partition::HalfBrick, 0.115 * 1800.0 + 0.015 * 1200.0),
        (Partition::Window, 0.008 * 2500.0),
        (Partition::LightStuds, 2.0 * 0.0125 * 700.0 + 5.0),
        (Partition::HeavyStuds, 4.0 * 0.0125 * 700.0 + 8.0),
    ] {
        assert_relative_eq!(which.mass_per_area(), mass, max_relative = 0.05);
    }
    assert_eq!(Partition::default(), Partition::HalfBrick);
    // weighting A at the octaves IEC 61672-1 lists
    for (f, db) in [(31.5, -39.4), (63.0, -26.2), (125.0, -16.1), (1000.0, 0.0)] {
        assert_relative_eq!(partition::a_weighting_db(f), db, epsilon = 0.15);
    }
}

/// A closed box in a small tight space: its cone has three springs, its own, the box's and the space's, so that fc = fs·√(1 + Vas/Vb +
/// Vas/V) (Small 1972, one volume more); what it gives is heard as its flow against the space's compliance. A port is loaded alike:
/// the fast solver and the plain one agree.
#[test]
fn a_small_space_is_a_spring_before_the_cone() {
    let woofer = Woofer {
        fs_hz: Some(30.0),
        qes: Some(0.40),
        qms: Some(5.0),
        vas_l: Some(120.0),
        re_ohm: Some(5.6),
        sd_cm2: Some(530.0),
        ..Woofer::default()
    };
    let one = woofer.resolve(&air()).unwrap();
    let context = Context::new(air(), Array::new(&one, &air(), &Arrangement::plain(1)), Source::new(2.83, 0.0));
    let conditions = Conditions { air: air(), distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() };
    let enclosure: Enclosure =
        serde_json::from_value(serde_json::json!({"family": "sealed", "net_volume_l": 60.0})).unwrap();
    let mut wired = enclosure.wire(&context);
    wired.network.enclose(air().compliance(0.9), 0.0);
    let fc = 30.0 * (1.0f64 + 120.0 / 60.0 + 120.0 / 900.0).sqrt();
    let curves = Sweep::new(&wired.network, conditions).curves(&[fc * 0.97, fc, fc * 1.03]);
    // at resonance the impedance is highest and real
    let size: Vec<f64> = curves.impedance.iter().map(|z| z.norm()).collect();
    assert!(size[1] > size[0] && size[1] > size[2] && curves.impedance[1].arg().abs() < 1e-6, "{size:?}");

    let vented: Enclosure = serde_json::from_value(serde_json::json!({"family": "vented", "net_volume_l": 90.0, "leak_q": 7.0,
        "port": {"section": {"shape": "round", "diameter_mm": 120.0}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32.0}}}))
    .unwrap();
    let mut wired = vented.wire(&context);
    let free = Sweep::new(&wired.network, conditions).curves(&[20.0, 33.0, 60.0]);
    wired.network.enclose(air().compliance(2.0), 6.0);
    let loaded = Sweep::new(&wired.network, conditions).curves(&[20.0, 33.0, 60.0]);
    for (i, f) in [20.0, 33.0, 60.0].iter().enumerate() {
        let plain = plain::solve(&wired.network, TAU * f);
        let p = Complex64::new(0.0, TAU * f * air().rho / TAU) * plain.sum * 2.83;
        assert!((loaded.sum[i] - p).norm() < 1e-9 * p.norm(), "{f} Hz: {} {p}", loaded.sum[i]);
        assert!((loaded.sum[i] / free.sum[i]).norm() < 1.3 && loaded.sum[i] != free.sum[i]);
    }
}

/// Four frequencies at a time with their derivative: the same values within 5e-4 (0.005 dB), the slope that of two frequencies close by.
#[test]
fn many_frequencies_at_once() {
    let plain = living_room();
    let walls =
        Shoebox::with_walls([5.0, 3.7, 2.4], [[0.1, 0.4], [0.05, 0.2], [0.3, 0.1]], 0.5, air()).leaking(Some(4.0));
    let omegas: Vec<f64> = [11.0, 17.0, 28.6, 33.0, 47.0, 80.0, 119.0].map(|f| TAU * f).to_vec();
    for (room, to) in [(plain, SEAT), (walls, [4.1, 3.0, 1.1]), (walls, [0.9, 0.8, 0.6])] {
        for (omega, [value, slope]) in omegas.iter().zip(room.transfers(&omegas, SOURCE, to)) {
            let exact = room.transfer(*omega, SOURCE, to);
            assert!((value - exact).norm() < 5e-4 * exact.norm(), "{omega}: {value} {exact}");
            let near = [-1e-4, 1e-4].map(|by| room.transfer(omega + by, SOURCE, to));
            let between = (near[1] - near[0]) / 2e-4;
            assert!((slope - between).norm() < 1e-3 * between.norm(), "{omega}: {slope} {between}");
        }
    }
    let planes = [Plane::taking(2, 0.0, 0.0), Plane::taking(0, 0.0, 0.3)];
    for omega in omegas {
        let [_, slope] = boundary::sloped(&air(), &planes, omega, SOURCE, SEAT);
        let near = [-1e-4, 1e-4].map(|by| boundary::transfer(&air(), &planes, omega + by, SOURCE, SEAT));
        assert!((slope - (near[1] - near[0]) / 2e-4).norm() < 1e-6 * slope.norm());
    }
}

/// Near a source, and in a hall, most is done by a screened field: within 3 % (0.3 dB) of the whole sum.
#[test]
fn near_places_are_summed_by_a_screened_field() {
    let hall = Shoebox::with_time([14.2, 8.6, 4.6], 1.3, air()).leaking(Some(4.0));
    let plain = living_room();
    let omegas: Vec<f64> = [13.0, 24.0, 41.0, 66.0, 96.0, 120.0].map(|f| TAU * f).to_vec();
    for (room, from, to) in [
        (hall, [2.0, 3.0, 0.4], [2.3, 3.2, 0.9]),
        (hall, [2.0, 3.0, 0.4], [2.6, 3.5, 1.2]),
        (hall, [0.4, 0.4, 0.4], [0.5, 1.1, 1.2]),
        (plain, SOURCE, [0.7, 0.8, 0.7]),
    ] {
        for (omega, [value, slope]) in omegas.iter().zip(room.transfers(&omegas, from, to)) {
            let exact = room.transfer(*omega, from, to);
            assert!((value - exact).norm() < 0.03 * exact.norm(), "{omega} {from:?} {to:?}: {value} {exact}");
            let near = [-1e-3, 1e-3].map(|by| room.transfer(omega + by, from, to));
            let between = (near[1] - near[0]) / 2e-3;
            assert!((slope - between).norm() < 0.03 * between.norm(), "{omega}: {slope} {between}");
        }
    }
}
