//! Tests of designs: documents, evaluation, findings, stations.
//! One program, so that it is linked once.

mod airway;
mod arrangement;
mod assembly;
mod cabinet;
mod chain;
mod combined;
mod cutting;
mod days;
mod documents;
mod drive;
mod families;
mod figures;
mod findings;
mod finishing;
mod folds;
mod habits;
mod handles;
mod kit;
mod mistakes;
mod netlist;
mod netlist_array;
mod netlist_families;
mod ngspice;
mod openings;
mod packed;
mod prove;
mod prove_view;
mod quiet;
mod read_back;
mod reader;
mod remedies;
mod room;
mod slots;
mod texts;
mod woofer_fit;
