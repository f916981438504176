//! The demo workshop: invented woofers by invented makers, and three builds of invented places.

use crate::error::Error;
use crate::tables::{build, owner, woofer};
use diesel::connection::Connection as _;
use diesel::pg::PgConnection;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_design::{Design, read_value};
use serde_json::Value;

const WOOFERS: &str = include_str!("../demo/woofers.json");
const BUILDS: &str = include_str!("../demo/builds.json");

/// The demo's name of the workshop.
pub const WORKSHOP: &str = "Millrace workshop";

/// The demo's woofers.
///
/// # Errors
/// [`Error::Unforeseen`] where the file that ships with the program does not read.
pub fn woofers() -> Result<Vec<Woofer>, Error> {
    serde_json::from_str(WOOFERS).map_err(|e| Error::Unforeseen(format!("demo woofers: {e}")))
}

/// The demo's builds: a name, and the designs of its revisions. A woofer is named there and its sheet taken from
/// [`woofers`].
///
/// # Errors
/// As [`woofers`].
pub fn builds() -> Result<Vec<(String, Vec<Design>)>, Error> {
    let shelf = woofers()?;
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
                    read_value(document).map_err(Error::Invalid)
                })
                .collect::<Result<Vec<_>, _>>()?;
            Ok((name, designs))
        })
        .collect()
}

/// Loads the demo into an empty workshop; one that holds anything is left alone.
///
/// # Errors
/// Those of the database, or of the demo's files.
pub fn load(connection: &mut PgConnection) -> Result<bool, Error> {
    connection.transaction(|c| {
        let owner = owner::ensure(c, WORKSHOP)?;
        if !woofer::list(c, owner.id)?.is_empty() || !build::list(c, owner.id)?.is_empty() {
            return Ok(false);
        }
        for sheet in woofers()? {
            woofer::create(c, owner.id, &sheet)?;
        }
        for (name, designs) in builds()? {
            build::create(c, owner.id, &name, &designs)?;
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

    #[test]
    fn the_builds_read_and_compute() {
        let list = builds().unwrap();
        assert_eq!(list.len(), 3);
        for (name, designs) in list {
            for design in designs {
                assert!(oak_drum_design::evaluate(&design).is_some(), "{name}");
            }
        }
    }
}
