//! Pages: words of any alphabet, tables, drawings at a scale or at their real size in tiles, and photos, as PDF.
//!
//! What is to be printed is a list of blocks ([`Block`]); [`write`] lays them out on pages ([`pages`]), words set by a library that
//! shapes, breaks and orders them ([`setting`]) in typefaces that ship with the program ([`fonts`]), and hands the pages to
//! another that embeds what is used of those ([`paint`]).
#![deny(missing_docs)]

pub mod block;
mod drawn;
pub mod fonts;
mod marks;
mod pages;
mod paint;
pub mod setting;

pub use block::{Block, MARGIN, OVERLAP, Paper};

use oak_drum_text::System;

/// Why nothing could be printed.
#[derive(Debug, PartialEq, Eq)]
pub struct Unprinted(pub String);

impl std::fmt::Display for Unprinted {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "the pages could not be written: {}", self.0)
    }
}

impl std::error::Error for Unprinted {}

/// Writes blocks one after another, their quantities said in a system.
///
/// # Errors
/// [`Unprinted`] where a photo is none, or a page does not come about.
pub fn write(title: &str, paper: Paper, system: System, blocks: &[Block]) -> Result<Vec<u8>, Unprinted> {
    let mut setter = setting::Setter::new();
    let laid = pages::lay_out(paper, system, &mut setter, blocks);
    paint::paint(title, paper, &setter, &laid)
}
