//! A build or a workshop packed into a zip.

use crate::build::BuildFile;
use crate::error::FileError;
use crate::limits::{MOST_JSON, MOST_WHOLE};
use crate::workshop::WorkshopFile;
use serde::Serialize;
use std::collections::BTreeSet;
use std::io::{Seek, Write};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// What lies beside the JSON, by its content.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Blob<'a> {
    /// Samples of a measurement, by their digest, as `docs/curves.md` has them packed.
    Samples(&'a str),
    /// A photo, by its digest.
    Photo(&'a str),
}

impl Blob<'_> {
    /// Its name in the zip.
    pub fn name(&self) -> String {
        match self {
            Blob::Samples(digest) => format!("samples/{digest}"),
            Blob::Photo(digest) => format!("photos/{digest}.jpg"),
        }
    }
}

/// The words that go with a file, for who opens it without the program.
const README: &str = "A build, or a whole workshop, of Oak Drum: an open zip.

build.json            the build: revisions with their design documents, work plan, measurements, log, listening
workshop.json         instead of it, of a whole workshop: the shelf and the rooms; its builds are builds/0/build.json and so on
curves/               what was measured, as it was read: frequency in Hz, level in dB or impedance in ohm, phase in degrees;
                      three columns of text for any other program. They are not read back.
samples/              the untouched samples, named by their SHA-256; docs/curves.md says how they are packed
photos/               the photos of the log, named by their SHA-256

The JSON follows the published schemas build.json and workshop.json of docs/schema.
";

/// Curves for other programs: name and text.
pub type Curves = Vec<(String, String)>;

/// A file that is written piece by piece.
pub struct Packer<W: Write + Seek> {
    zip: ZipWriter<W>,
    there: BTreeSet<String>,
    left: u64,
}

impl<W: Write + Seek> Packer<W> {
    /// A file with nothing in it but the words for its reader.
    ///
    /// # Errors
    /// [`FileError::Io`].
    pub fn begin(out: W) -> Result<Packer<W>, FileError> {
        let mut packer = Packer { zip: ZipWriter::new(out), there: BTreeSet::new(), left: MOST_WHOLE };
        packer.member("README.txt", README.as_bytes(), true)?;
        Ok(packer)
    }

    fn member(&mut self, name: &str, bytes: &[u8], deflate: bool) -> Result<(), FileError> {
        if !self.there.insert(name.to_owned()) {
            return Ok(());
        }
        let how = if deflate { CompressionMethod::Deflated } else { CompressionMethod::Stored };
        // what could not be read back is not written
        self.left = self
            .left
            .checked_sub(bytes.len() as u64)
            .ok_or_else(|| FileError::TooLarge { what: "what is to be written".into(), most: MOST_WHOLE >> 20 })?;
        // no times of the machine: the same build gives the same file
        let options = SimpleFileOptions::default().compression_method(how).last_modified_time(zip::DateTime::default());
        self.zip.start_file(name, options).map_err(|e| FileError::Damaged(e.to_string()))?;
        Ok(self.zip.write_all(bytes)?)
    }

    fn json(&mut self, name: &str, of: &impl Serialize) -> Result<(), FileError> {
        let text = serde_json::to_vec_pretty(of).map_err(|e| FileError::Damaged(e.to_string()))?;
        if text.len() as u64 > MOST_JSON {
            return Err(FileError::TooLarge { what: name.to_owned(), most: MOST_JSON >> 20 });
        }
        self.member(name, &text, true)
    }

    /// Adds a build under a folder (empty or ending in a slash), what lies beside it fetched piece by piece.
    ///
    /// # Errors
    /// [`FileError`], or what fetching gives.
    pub fn build<E: From<FileError>>(
        &mut self,
        folder: &str,
        build: &BuildFile,
        curves: &Curves,
        mut fetch: impl FnMut(Blob) -> Result<Vec<u8>, E>,
    ) -> Result<(), E> {
        self.json(&format!("{folder}build.json"), build)?;
        for (name, text) in curves {
            self.member(&format!("{folder}curves/{name}"), text.as_bytes(), true)?;
        }
        let samples = build.samples().into_iter().map(Blob::Samples);
        for blob in samples.chain(build.photos().into_iter().map(Blob::Photo)) {
            if !self.there.contains(&blob.name()) {
                let bytes = fetch(blob)?;
                self.member(&blob.name(), &bytes, matches!(blob, Blob::Samples(_)))?;
            }
        }
        Ok(())
    }

    /// Adds what a workshop says of itself.
    ///
    /// # Errors
    /// [`FileError`].
    pub fn workshop(&mut self, workshop: &WorkshopFile) -> Result<(), FileError> {
        self.json("workshop.json", workshop)
    }

    /// Ends the file.
    ///
    /// # Errors
    /// [`FileError`].
    pub fn end(self) -> Result<W, FileError> {
        self.zip.finish().map_err(|e| FileError::Damaged(e.to_string()))
    }
}

/// Packs one build.
///
/// # Errors
/// [`FileError`], or what fetching gives.
pub fn pack<W: Write + Seek, E: From<FileError>>(
    out: W,
    build: &BuildFile,
    curves: &Curves,
    fetch: impl FnMut(Blob) -> Result<Vec<u8>, E>,
) -> Result<W, E> {
    let mut packer = Packer::begin(out)?;
    packer.build("", build, curves, fetch)?;
    Ok(packer.end()?)
}
