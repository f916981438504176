//! Why a file is not taken.

use oak_drum_document::Problem;

/// Why a file is not taken; nothing of it is.
#[derive(Debug, thiserror::Error)]
pub enum FileError {
    /// It is no zip, or one that is damaged.
    #[error("this is no file of a build or a workshop: {0}")]
    NoZip(String),
    /// It is a zip of something else.
    #[error("this is a zip, but not one of a build or a workshop: {0}")]
    NoBuild(String),
    /// It was written by a newer version of this program.
    #[error(
        "this file has version {found} of its format; this program reads up to version {known}. Import it with a newer one"
    )]
    Newer {
        /// Its version.
        found: u64,
        /// The newest this program reads.
        known: u32,
    },
    /// A name in it leads out of it.
    #[error("\"{0}\" in this file leads out of it; such a file is not taken")]
    LeadsOut(String),
    /// It unpacks to more than is taken.
    #[error("{what} unpacks to more than {most} MB; such a file is not taken")]
    TooLarge {
        /// What does.
        what: String,
        /// What is taken, MB.
        most: u64,
    },
    /// Something it names is not in it.
    #[error("the file is not whole: {0} is missing")]
    Missing(String),
    /// What is in it is not what it says.
    #[error("the file is damaged: {0}")]
    Damaged(String),
    /// What it says does not read.
    #[error("what the file says does not read: {}", words(.0))]
    Unreadable(Vec<Problem>),
    /// It could not be read or written.
    #[error("the file could not be read: {0}")]
    Io(#[from] std::io::Error),
}

fn words(problems: &[Problem]) -> String {
    let told: Vec<String> = problems.iter().take(3).map(|p| format!("{}: {}", p.pointer, p.message.metric())).collect();
    let more = problems.len().saturating_sub(3);
    if more > 0 { format!("{} and {more} more", told.join("; ")) } else { told.join("; ") }
}
