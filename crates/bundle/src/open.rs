//! A file that may have been made by anybody, opened with care.

use crate::build::BuildFile;
use crate::check::{self, CheckedBuild};
use crate::error::FileError;
use crate::limits::{MOST_JSON, MOST_MEMBERS, MOST_PHOTO, MOST_SAMPLES, MOST_WHOLE};
use crate::pack::Blob;
use crate::workshop::{self, Sheets, WorkshopFile};
use serde::de::DeserializeOwned;
use serde_json::Value;
use std::collections::BTreeSet;
use std::io::{Read, Seek};
use zip::ZipArchive;

/// A file whose JSON was read and looked at; what lies beside it is read when it is asked for.
pub struct Opened<R> {
    zip: ZipArchive<R>,
    left: u64,
}

/// What a file holds.
#[derive(Debug)]
pub enum Holds {
    /// One build.
    Build(Box<CheckedBuild>),
    /// A whole workshop.
    Workshop(Box<CheckedWorkshop>),
}

/// A workshop that was looked at.
#[derive(Debug)]
pub struct CheckedWorkshop {
    /// Its name.
    pub name: String,
    /// Its sheets.
    pub sheets: Sheets,
    /// Its builds.
    pub builds: Vec<CheckedBuild>,
}

/// Opens a file: reads its JSON, looks at all of it, and at whether what it names is there.
///
/// # Errors
/// [`FileError`] where it is none, is damaged, was made by a newer version, or would harm.
pub fn open<R: Read + Seek>(file: R) -> Result<(Opened<R>, Holds), FileError> {
    let zip = ZipArchive::new(file).map_err(|e| FileError::NoZip(e.to_string()))?;
    if zip.len() > MOST_MEMBERS {
        return Err(FileError::Damaged(format!("it has {} members, more than any such file", zip.len())));
    }
    for name in zip.file_names() {
        let name = name.map_err(|e| FileError::Damaged(e.to_string()))?;
        let climbs = name.split(['/', '\\']).any(|part| part == "..");
        if climbs || name.starts_with(['/', '\\']) || name.contains([':', '\0', '\\']) {
            return Err(FileError::LeadsOut(name.chars().take(80).collect()));
        }
    }
    let holds_name = |name: &str| zip.index_for_name(name).is_some();
    let (build, whole) = (holds_name("build.json"), holds_name("workshop.json"));
    let mut opened = Opened { zip, left: MOST_WHOLE };
    let holds = match (build, whole) {
        (true, false) => Holds::Build(Box::new(opened.checked_build("")?)),
        (false, true) => Holds::Workshop(Box::new(opened.checked_workshop()?)),
        (true, true) => return Err(FileError::NoBuild("it says it is a build and a workshop".into())),
        (false, false) => return Err(FileError::NoBuild("build.json is not in it".into())),
    };
    Ok((opened, holds))
}

impl<R: Read + Seek> Opened<R> {
    fn member(&mut self, name: &str, most: u64) -> Result<Vec<u8>, FileError> {
        let index = self.zip.index_for_name(name).ok_or_else(|| FileError::Missing(name.to_owned()))?;
        let mut found = self.zip.by_index(index).map_err(|e| FileError::Damaged(format!("{name}: {e}")))?;
        if found.encrypted() {
            return Err(FileError::Damaged(format!("{name} is locked with a password")));
        }
        let most = most.min(self.left);
        let too_large = || FileError::TooLarge { what: name.to_owned(), most: most >> 20 };
        if found.size() > most {
            return Err(too_large());
        }
        // what it says of its size is not believed
        let mut bytes = Vec::with_capacity(usize::try_from(found.size().min(4 << 20)).unwrap_or(0));
        (&mut found).take(most + 1).read_to_end(&mut bytes).map_err(|e| FileError::Damaged(format!("{name}: {e}")))?;
        if bytes.len() as u64 > most {
            return Err(too_large());
        }
        self.left -= bytes.len() as u64;
        Ok(bytes)
    }

    fn json<T: DeserializeOwned>(&mut self, name: &str, format: &str, known: u32) -> Result<T, FileError> {
        let text = self.member(name, MOST_JSON)?;
        let damaged = |e: serde_json::Error| FileError::Damaged(format!("{name}: {e}"));
        let value: Value = serde_json::from_slice(&text).map_err(damaged)?;
        if value.get("format").and_then(Value::as_str) != Some(format) {
            return Err(FileError::NoBuild(format!("{name} does not say \"format\": \"{format}\"")));
        }
        match value.get("version").and_then(Value::as_u64) {
            Some(found) if found > u64::from(known) => return Err(FileError::Newer { found, known }),
            Some(found) if found >= 1 => {}
            _ => return Err(FileError::NoBuild(format!("{name} states no version"))),
        }
        serde_json::from_value(value).map_err(damaged)
    }

    fn checked_build(&mut self, folder: &str) -> Result<CheckedBuild, FileError> {
        let name = format!("{folder}build.json");
        let read: BuildFile = self.json(&name, crate::build::FORMAT, crate::build::VERSION)?;
        let samples = read.samples().into_iter().map(Blob::Samples);
        for blob in samples.chain(read.photos().into_iter().map(Blob::Photo)) {
            if self.zip.index_for_name(&blob.name()).is_none() {
                return Err(FileError::Missing(blob.name()));
            }
        }
        check::build(read)
    }

    fn checked_workshop(&mut self) -> Result<CheckedWorkshop, FileError> {
        let read: WorkshopFile = self.json("workshop.json", workshop::FORMAT, workshop::VERSION)?;
        let count = read.builds as usize;
        if count > workshop::MOST_BUILDS {
            let most = workshop::MOST_BUILDS;
            return Err(FileError::Damaged(format!("it says it holds {count} builds; at most {most} are taken")));
        }
        let (name, sheets) = (read.name.clone(), check::sheets(read)?);
        let builds: Vec<CheckedBuild> =
            (0..count).map(|i| self.checked_build(&format!("builds/{i}/"))).collect::<Result<_, _>>()?;
        let mut keys = BTreeSet::new();
        if let Some(twice) = builds.iter().find(|b| !keys.insert(b.key.clone())) {
            let what = format!("two of its builds have one key; the second is \"{}\"", twice.name);
            return Err(FileError::Damaged(what));
        }
        Ok(CheckedWorkshop { name, sheets, builds })
    }

    /// What lies beside the JSON.
    ///
    /// # Errors
    /// [`FileError`] where it is damaged or larger than what is taken.
    pub fn blob(&mut self, blob: Blob) -> Result<Vec<u8>, FileError> {
        let most = if matches!(blob, Blob::Photo(_)) { MOST_PHOTO } else { MOST_SAMPLES };
        self.member(&blob.name(), most)
    }
}
