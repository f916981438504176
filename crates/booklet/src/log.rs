//! The log with its photos.

use crate::told::Told;
use oak_drum_document::EntryKind;
use oak_drum_paper::Block;
use oak_drum_paper::block::Photo;

/// This part.
pub fn part(told: &Told) -> Vec<Block> {
    let mut blocks = vec![Block::Part("Log".into())];
    if told.log.is_empty() {
        blocks.push(Block::Words("Nothing is written down yet.".into()));
    }
    if told.photos_reduced {
        blocks.push(Block::Words("Photos are printed small, the first of them only where they are very many: the build's file has them whole.".into()));
    }
    for written in told.log {
        let kind = match written.entry.kind {
            EntryKind::Note => "",
            EntryKind::Mistake => ": what went wrong",
            EntryKind::Better => ": what I would do better",
            EntryKind::Remedy => ": a remedy taken",
        };
        blocks.push(Block::Heading(format!("{}{kind}", told.hour(written.at)).into()));
        let tied = &written.entry.tied;
        let about: Vec<String> = [
            ("revision", &tied.revision),
            ("step", &tied.step),
            ("part", &tied.part),
            ("measurement", &tied.measurement),
            ("finding", &tied.finding),
        ]
        .into_iter()
        .filter_map(|(what, of)| Some(format!("{what} {}", of.as_ref()?.replace('_', " "))))
        .collect();
        if !about.is_empty() {
            blocks.push(Block::Words(format!("About {}.", about.join(", ")).into()));
        }
        blocks
            .extend((!written.entry.text.trim().is_empty()).then(|| Block::Words(written.entry.text.as_str().into())));
        let photos: Vec<Photo> =
            written.entry.photos.iter().filter_map(|p| told.photos.get(&p.digest).cloned()).collect();
        blocks.extend((!photos.is_empty()).then_some(Block::Photos(photos)));
    }
    blocks
}
