//! Pages: words of any alphabet, tables, drawings at a scale or at their real size in tiles, and photos, as PDF.
//!
//! What is to be printed is a list of blocks ([`Block`]); [`write`] lays them out on pages ([`pages`]), words set by a library that
//! shapes, breaks and orders them ([`setting`]) in typefaces that ship with the program ([`fonts`]), and hands the pages to
//! another that embeds what is used of those ([`paint`]).
#![deny(missing_docs)]

pub mod block;
mod drawn;
mod error;
pub mod fonts;
mod marks;
mod pages;
mod paint;
pub mod setting;

pub use block::{Block, MARGIN, OVERLAP, Paper};
pub use error::Unprinted;

use oak_drum_text::System;

/// Writes blocks one after another, their quantities said in a system.
///
/// # Errors
/// [`Unprinted`] where a photo is none, or a page does not come about.
pub fn write(title: &str, paper: Paper, system: System, blocks: &[Block]) -> Result<Vec<u8>, Unprinted> {
    let mut setter = setting::Setter::new();
    let laid = pages::lay_out(paper, system, &mut setter, blocks);
    paint::paint(title, paper, &setter, &laid)
}
