//! `oak-drum`: the core on the command line.

mod commands;
mod output;

use clap::{Parser, Subcommand};
use std::process::ExitCode;

/// Trying remedies asks for a great many small pieces of memory.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

#[derive(Parser)]
#[command(name = "oak-drum", version, about = "Designs subwoofers and bass cabinets from the command line.")]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Evaluates a design and prints its result.
    Evaluate(commands::evaluate::Arguments),
    /// Prints the response of a design's signal chain, its biquads, a protective low cut, or bands that flatten a level.
    Chain(commands::chain::Arguments),
    /// Reads a measured curve, treats it and writes it.
    Curve(Box<commands::curve::Arguments>),
    /// Fits a woofer or a box to measured impedances.
    Fit(Box<commands::fit::Arguments>),
    /// Makes a sweep as WAV, or takes a recording of one apart.
    Sweep(commands::sweep::Arguments),
    /// Holds measured curves against a design: how far off, why, and what to do.
    Compare(commands::compare::Arguments),
    /// Writes the recording that measuring a design's cabinet would give, on a simulated bench.
    Rig(commands::rig::Arguments),
    /// Tells what a room does with a design: every seat, maps of the floor, arrangements.
    Room(commands::room::Arguments),
    /// Answers a question about a listening test: probabilities, ranges, rankings, trials needed, balanced orders.
    Listening(commands::listening::Arguments),
    /// Prints the JSON Schema of a format.
    Schema(commands::schema::Arguments),
}

fn main() -> ExitCode {
    let outcome = match Arguments::parse().command {
        Command::Evaluate(arguments) => commands::evaluate::run(&arguments),
        Command::Chain(arguments) => commands::chain::run(&arguments),
        Command::Curve(arguments) => commands::curve::run(&arguments),
        Command::Fit(arguments) => commands::fit::run(&arguments),
        Command::Sweep(arguments) => commands::sweep::run(&arguments),
        Command::Compare(arguments) => commands::compare::run(&arguments),
        Command::Rig(arguments) => commands::rig::run(&arguments),
        Command::Room(arguments) => commands::room::run(&arguments),
        Command::Listening(arguments) => commands::listening::run(&arguments),
        Command::Schema(arguments) => commands::schema::run(&arguments),
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("oak-drum: {error:#}");
            ExitCode::from(2)
        }
    }
}
