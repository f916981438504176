//! What a kind (of filter, of part) says about itself.

use serde::Serialize;

/// What a kind says about itself.
#[derive(Clone, Copy, Debug, Serialize)]
pub struct Info {
    /// The tag in the document.
    pub id: &'static str,
    /// The field's name for it.
    pub title: &'static str,
    /// One sentence for a first-time builder.
    pub summary: &'static str,
    /// Where its law comes from.
    pub source: &'static str,
}

/// What must hold of a registry of kinds: unique ids, words and a source for each.
#[cfg(test)]
pub(crate) fn assert_described(kinds: &[Info]) {
    let ids: std::collections::BTreeSet<_> = kinds.iter().map(|k| k.id).collect();
    assert_eq!(ids.len(), kinds.len());
    for kind in kinds {
        assert!(kind.summary.ends_with('.') && !kind.source.is_empty() && !kind.title.is_empty(), "{}", kind.id);
    }
}
