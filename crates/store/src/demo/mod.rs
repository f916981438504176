//! The demo workshop: invented woofers and amplifiers by invented makers, and builds of invented places.

mod story;

use crate::error::Error;
use crate::tables::build::BuildDetail;
use crate::tables::{amplifier, build, measurement, owner, room, woofer, workshop};
use diesel::connection::Connection as _;
use diesel::pg::PgConnection;
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::measurement::Source;
use oak_drum_curves::rig::Bench;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::bench::{BenchWish, calibration, measured_by};
use oak_drum_design::prove::hidden::{Flaw, flawed};
use oak_drum_document::{Checked, Room, WorkPlan, Workshop, read_value};
use oak_drum_shelf::{ParameterSet, ShelfAmplifier, ShelfWoofer};
use serde_json::Value;
use std::collections::BTreeMap;

const WOOFERS: &str = include_str!("../../demo/woofers.json");
const AMPLIFIERS: &str = include_str!("../../demo/amplifiers.json");
const MEASURED: &str = include_str!("../../demo/measured.json");
const WORK: &str = include_str!("../../demo/work.json");
const HAS: &str = include_str!("../../demo/workshop.json");
const BUILDS: &str = include_str!("../../demo/builds.json");
const ROOMS: &str = include_str!("../../demo/rooms.json");

/// The demo's name of the workshop.
pub const WORKSHOP: &str = "Millrace workshop";

/// The demo's woofers as the shelf keeps them: their sheets, and for some what was measured later.
///
/// # Errors
/// [`Error::Unforeseen`] where a file that ships with the program does not read.
pub fn shelf() -> Result<Vec<ShelfWoofer>, Error> {
    let unread = |e: serde_json::Error| Error::Unforeseen(format!("demo measurements: {e}"));
    let mut measured: BTreeMap<String, Measured> = serde_json::from_str(MEASURED).map_err(unread)?;
    let list = woofers()?
        .iter()
        .map(|sheet| {
            let mut made = ShelfWoofer::from_sheet(sheet);
            if let Some(extra) = measured.remove(&sheet.name) {
                made.sets.extend(extra.sets);
                made.in_use = extra.in_use;
                made.tags = extra.tags;
                made.favourite = extra.favourite;
                made.notes = extra.notes;
            }
            made
        })
        .collect();
    match measured.keys().next() {
        Some(name) => Err(Error::Unforeseen(format!("demo measurements: no woofer \"{name}\""))),
        None => Ok(list),
    }
}

/// What the demo's builder added to a woofer.
#[derive(serde::Deserialize)]
#[serde(default, deny_unknown_fields)]
#[derive(Default)]
struct Measured {
    sets: Vec<ParameterSet>,
    in_use: u32,
    tags: Vec<String>,
    favourite: bool,
    notes: String,
}

/// The demo's woofers' sheets.
///
/// # Errors
/// [`Error::Unforeseen`] where the file that ships with the program does not read.
pub fn woofers() -> Result<Vec<Woofer>, Error> {
    serde_json::from_str(WOOFERS).map_err(|e| Error::Unforeseen(format!("demo woofers: {e}")))
}

/// An amplifier of the demo.
#[derive(serde::Deserialize)]
#[serde(deny_unknown_fields)]
struct Kept {
    amplifier: Amplifier,
    #[serde(default)]
    notes: String,
}

/// The demo's amplifiers.
///
/// # Errors
/// As [`woofers`].
pub fn amplifiers() -> Result<Vec<ShelfAmplifier>, Error> {
    let list: Vec<Kept> =
        serde_json::from_str(AMPLIFIERS).map_err(|e| Error::Unforeseen(format!("demo amplifiers: {e}")))?;
    Ok(list.into_iter().map(|k| ShelfAmplifier { notes: k.notes, ..ShelfAmplifier::from_sheet(k.amplifier) }).collect())
}

/// The demo's rooms.
///
/// # Errors
/// As [`woofers`].
pub fn rooms() -> Result<Vec<Room>, Error> {
    serde_json::from_str(ROOMS).map_err(|e| Error::Unforeseen(format!("demo rooms: {e}")))
}

/// The demo's builds: a name, and the designs of its revisions. A woofer is named there and its sheet taken from
/// [`woofers`], a room likewise from [`rooms`].
///
/// # Errors
/// As [`woofers`].
pub fn builds() -> Result<Vec<(String, Vec<Checked>)>, Error> {
    let (shelf, rooms) = (woofers()?, rooms()?);
    let list: Vec<(String, Vec<Value>)> =
        serde_json::from_str(BUILDS).map_err(|e| Error::Unforeseen(format!("demo builds: {e}")))?;
    list.into_iter()
        .map(|(name, documents)| {
            let designs = documents
                .into_iter()
                .map(|mut document| {
                    let wanted = document["woofer"].as_str().unwrap_or_default().to_owned();
                    let sheet = shelf
                        .iter()
                        .find(|w| w.name == wanted)
                        .ok_or_else(|| Error::Unforeseen(format!("demo builds: no woofer \"{wanted}\"")))?;
                    document["woofer"] = serde_json::to_value(sheet).unwrap_or_default();
                    if let Some(wanted) = document.pointer("/room/room").and_then(Value::as_str) {
                        let room = rooms.iter().find(|r| r.name == wanted);
                        let room =
                            room.ok_or_else(|| Error::Unforeseen(format!("demo builds: no room \"{wanted}\"")))?;
                        document["room"]["room"] = serde_json::to_value(room).unwrap_or_default();
                    }
                    read_value(document).map_err(Error::Invalid)
                })
                .collect::<Result<Vec<_>, _>>()?;
            Ok((name, designs))
        })
        .collect()
}

/// What the demo's workshop keeps beside its revisions, by build and letter.
fn plans() -> Result<BTreeMap<String, BTreeMap<char, WorkPlan>>, Error> {
    serde_json::from_str(WORK).map_err(|e| Error::Unforeseen(format!("demo work plans: {e}")))
}

/// What the demo's workshop has beside its builds.
fn has() -> Result<Workshop, Error> {
    serde_json::from_str(HAS).map_err(|e| Error::Unforeseen(format!("demo workshop: {e}")))
}

/// What was measured in the demo, on the simulated bench: build, letter, place, name, and what is wrong with that cabinet.
const MEASURED_AT: [(&str, char, Taken, &str, &[Flaw]); 7] = [
    ("Village hall pedal stop", 'A', Taken::InBox {}, "Terminals, glued up", &[Flaw::Port { mm: 9.0 }]),
    ("Village hall pedal stop", 'A', Taken::NearCone {}, "Cone, glued up", &[Flaw::Port { mm: 9.0 }]),
    ("Village hall pedal stop", 'A', Taken::NearPort {}, "Port, glued up", &[Flaw::Port { mm: 9.0 }]),
    ("Flat-friendly bass", 'A', Taken::InBox {}, "First try, wires not sealed", &[Flaw::Leak { q: 2.2 }]),
    ("Whale-song room", 'A', Taken::FreeAir {}, "Out of its carton", &[]),
    ("Whale-song room", 'A', Taken::AddedMass { mass_g: 80.0 }, "80 g of putty", &[]),
    ("Whale-song room", 'A', Taken::InBox {}, "Terminals, finished", &[]),
];

/// Measures what the demo's builder measured: samples from the bench, by the road every recording goes.
fn measure(
    c: &mut PgConnection,
    made: &BuildDetail,
    revisions: &[(Checked, WorkPlan)],
    jig: &[Curve; 3],
) -> Result<(), Error> {
    let wrong = |e: &dyn std::fmt::Display| Error::Unforeseen(format!("demo measurements: {e}"));
    for (i, (build, letter, taken, name, flaws)) in MEASURED_AT.iter().enumerate() {
        if made.build.name != *build {
            continue;
        }
        let Some(at) = made.revisions.iter().position(|r| r.letter == letter.to_string()) else { continue };
        let built = AsBuilt::of(&revisions[at].0).ok_or_else(|| wrong(&"no such design"))?;
        let cabinet = flawed(&built, flaws).ok_or_else(|| wrong(&"no such cabinet"))?;
        let bench = Bench { seed: i as u32 + 1, ..Bench::default() };
        let wish = BenchWish { taken: *taken, bench, ..BenchWish::default() };
        let (document, data) =
            measured_by(&cabinet, flaws, &wish, Some(jig), (*name).into(), Source::Bench {}).map_err(|e| wrong(&e))?;
        measurement::create(c, made.build.id, Some(made.revisions[at].id), &document, &data)?;
    }
    Ok(())
}

/// Loads the demo into an empty workshop; one that holds anything is left alone.
///
/// # Errors
/// Those of the database, or of the demo's files.
pub fn load(connection: &mut PgConnection) -> Result<bool, Error> {
    connection.transaction(|c| {
        let owner = owner::ensure(c, WORKSHOP)?;
        if !woofer::list(c, owner.id)?.is_empty() || !build::list(c, owner.id, build::Shelf::Bench)?.is_empty() {
            return Ok(false);
        }
        for made in shelf()? {
            woofer::create(c, owner.id, &made)?;
        }
        amplifier::import(c, owner.id, &amplifiers()?)?;
        workshop::save(c, owner.id, 0, &has()?)?;
        for made in rooms()? {
            room::create(c, owner.id, &made)?;
        }
        let now = chrono::Utc::now();
        let mut plans = plans()?;
        // one calibration of the jig does for all, as it does on a bench
        let jig =
            calibration(&BenchWish::default()).map_err(|e| Error::Unforeseen(format!("demo measurements: {e}")))?;
        for (name, designs) in builds()? {
            let mut beside = plans.remove(&name).unwrap_or_default();
            let with_plan = |(design, letter)| (design, beside.remove(&letter).unwrap_or_default());
            let revisions: Vec<_> = designs.into_iter().zip('A'..='Z').map(with_plan).collect();
            let made = build::create(c, owner.id, &name, &revisions)?;
            measure(c, &made, &revisions, &jig)?;
            story::tell(c, &made, now)?;
        }
        Ok(true)
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use oak_drum_acoustics::air::Air;

    /// At least 16 woofers from 6.5 to 21 in; all but two agree with themselves within 3 %.
    #[test]
    fn the_shelf_is_as_promised() {
        let list = woofers().unwrap();
        assert!(list.len() >= 16);
        let sizes: Vec<f64> = list.iter().filter_map(|w| w.size_in).collect();
        assert_eq!(
            (sizes.iter().copied().fold(99.0, f64::min), sizes.iter().copied().fold(0.0, f64::max)),
            (6.5, 21.0)
        );
        let air = Air::at(20.0, 101_325.0);
        let liars: Vec<&str> = list
            .iter()
            .filter(|w| {
                w.resolve(&air).unwrap().contradictions.iter().any(|c| {
                    c.field != "sensitivity_db" && c.percent.abs() > 3.0
                        || (c.stated - c.derived).abs() > 1.5 && c.field == "sensitivity_db"
                })
            })
            .map(|w| w.name.as_str())
            .collect();
        assert_eq!(liars.len(), 2, "{liars:?}");
    }

    /// Every woofer with what was measured later reads as one of the shelf.
    #[test]
    fn the_measurements_belong_to_woofers() {
        let list = shelf().unwrap();
        assert!(list.iter().filter(|w| w.sets.len() > 1).count() >= 2);
        for made in list {
            assert_eq!(oak_drum_shelf::read_value(serde_json::to_value(&made).unwrap()).unwrap(), made);
        }
    }

    /// Every amplifier reads as one of the shelf, and those of the builds are among them as they stand there.
    #[test]
    fn the_amplifiers_of_the_builds_stand_on_the_shelf() {
        let shelf = amplifiers().unwrap();
        for made in &shelf {
            let read = oak_drum_shelf::amplifier::read_value(serde_json::to_value(made).unwrap());
            assert_eq!(&read.unwrap(), made);
        }
        let named =
            builds().unwrap().into_iter().flat_map(|(_, designs)| designs).filter_map(|d| d.chain.amplifier.clone());
        let mut many = 0;
        for amplifier in named.filter(|a| !a.name.is_empty()) {
            many += 1;
            assert!(shelf.iter().any(|s| s.amplifier == amplifier), "{}", amplifier.name);
        }
        assert!(many >= 4);
    }

    /// Every work plan is of a revision there is.
    #[test]
    fn the_work_plans_belong_to_revisions() {
        let many: BTreeMap<String, usize> = builds().unwrap().into_iter().map(|(n, list)| (n, list.len())).collect();
        for (name, letters) in plans().unwrap() {
            assert!(letters.keys().all(|l| ('A'..='Z').take(many[&name]).any(|has| has == *l)), "{name}");
        }
    }

    #[test]
    fn the_builds_read_and_compute() {
        let list = builds().unwrap();
        assert_eq!(list.len(), 8);
        for (name, designs) in list {
            for design in designs {
                let curves = oak_drum_design::outline(&design).curves;
                assert!(curves.level_db.iter().all(|l| l.is_finite()), "{name}");
            }
        }
    }
}
