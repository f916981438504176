//! What a file of woofers was understood as: columns, rows, and what is wrong with them.

use crate::record::ShelfWoofer;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A column as it was understood.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ColumnReport {
    /// Its header.
    pub header: String,
    /// The field it fills; absent where it is left out.
    pub field: Option<String>,
    /// The unit it is read in.
    pub unit: Option<String>,
    /// What is to be said about it.
    pub note: Option<String>,
}

/// A row as it was understood.
#[derive(Clone, Debug)]
pub struct ImportedRow {
    /// Line of the file (CSV) or place in the list (JSON), from 1.
    pub line: u64,
    /// Name of the woofer, as far as it was read.
    pub name: String,
    /// The woofer; absent where the row has problems.
    pub woofer: Option<Box<ShelfWoofer>>,
    /// What is wrong.
    pub problems: Vec<RowProblem>,
}

/// Bad rows of one file of which every problem is told; of later ones the first.
const TOLD: usize = 1000;

impl ImportedRow {
    /// Lets go of what nobody reads: this is the so-many-th bad row of its file.
    pub(crate) fn keep_told(&mut self, bad: usize) {
        if bad > TOLD {
            self.problems.truncate(1);
            self.problems.shrink_to_fit();
        }
    }
}

/// Something wrong in a row.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RowProblem {
    /// The column or field; empty for the whole row.
    pub column: String,
    /// What is wrong and what is expected.
    pub message: String,
}
