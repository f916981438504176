//! `oak-drum schema design|result|woofer`

use clap::ValueEnum;

#[derive(clap::Args)]
pub struct Arguments {
    /// Which format.
    format: Format,
}

#[derive(Clone, Copy, ValueEnum)]
enum Format {
    /// The design document.
    Design,
    /// The result of an evaluation.
    Result,
    /// A woofer of the shelf.
    Woofer,
}

pub fn run(arguments: &Arguments) -> crate::output::Outcome {
    let schema = match arguments.format {
        Format::Design => oak_drum_document::schema::design(),
        Format::Result => oak_drum_design::evaluation::schema(),
        Format::Woofer => oak_drum_shelf::schema(),
    };
    crate::output::print(&format!("{schema:#}\n"))
}
