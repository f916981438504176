//! What came of listening.

use crate::told::Told;
use oak_drum_paper::Block;
use oak_drum_text::Text;

/// This part.
pub fn part(told: &Told) -> Vec<Block> {
    let mut blocks = vec![Block::Part("Heard".into())];
    if told.heard.is_empty() {
        blocks.push(Block::Words("Nobody has listened blind yet.".into()));
    }
    for session in told.heard {
        let o = &session.outcome;
        blocks.push(Block::Heading(session.title.as_str().into()));
        blocks.push(Block::Words(format!("{}. {}", told.day(session.ended_at), o.conditions).into()));
        blocks.push(Block::Words(o.sentence.as_str().into()));
        blocks.extend(o.warnings.iter().map(|w| Block::Words(w.as_str().into())));
        for scale in o.scales.iter().filter(|s| !o.sentence.contains(&s.sentence)) {
            blocks.push(Block::Words(format!("{}: {}", oak_drum_text::capital(&scale.scale), scale.sentence).into()));
        }
        let mut rows = vec![["listener", "answered", "noted"].map(Text::from).to_vec()];
        for l in &o.listeners {
            let notes: Vec<&str> = l.notes.iter().map(|n| n.note.as_str()).collect();
            rows.push(vec![
                l.name.as_str().into(),
                format!("{} of {}", l.answered, l.of).into(),
                notes.join("; ").into(),
            ]);
        }
        if rows.len() > 1 {
            blocks.push(Block::Table { widths: vec![1.5, 1.0, 4.0], rows });
        }
    }
    blocks
}
