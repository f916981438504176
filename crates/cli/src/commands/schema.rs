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

pub fn run(arguments: &Arguments) -> crate::Outcome {
    let schema = match arguments.format {
        Format::Design => oak_drum_design::schema::design(),
        Format::Result => oak_drum_design::schema::result(),
        Format::Woofer => oak_drum_shelf::schema(),
    };
    crate::print(&format!("{schema:#}\n"))
}
