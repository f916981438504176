//! `oak-drum room FILE|-`: a design in its room, JSON by published schemas.

use super::evaluate::load;
use super::files::print_json;
use anyhow::{Context, Result, bail, ensure};
use clap::ValueEnum;
use oak_drum_design::room::arrangements::{ArrangementsWish, arrangements};
use oak_drum_design::room::families::families;
use oak_drum_design::room::map::{MapOf, MapWish, map};
use oak_drum_design::room::view::view;
use oak_drum_document::MOST_CABINETS;
use serde_json::Value;

#[derive(clap::Args)]
pub struct Arguments {
    /// A design; - for standard input.
    file: String,
    /// Where it stands, in place of what the design says: room, cabinets with their places, seats (schema room).
    #[arg(long, value_name = "FILE")]
    room: Option<String>,
    /// What is told: what every seat hears, a map of the floor, arrangements, or every family in this room.
    #[arg(long, value_enum, default_value_t = Told::Seats)]
    tell: Told,
    /// Which cabinet or seat a map is of, from 1.
    #[arg(long, default_value_t = 1)]
    which: usize,
    /// Places of a map along the length.
    #[arg(long, default_value_t = 60)]
    columns: usize,
    /// Places of a map across the width.
    #[arg(long, default_value_t = 40)]
    rows: usize,
    /// How many cabinets are arranged.
    #[arg(long, default_value_t = 2)]
    count: usize,
}

#[derive(Clone, Copy, ValueEnum)]
enum Told {
    /// Response at each seat, spread, standing waves (schema room-view).
    Seats,
    /// How even the seats are with a cabinet at every place of the floor (schema room-map).
    MapCabinet,
    /// The same with a seat at every place (schema room-map).
    MapSeat,
    /// The usual arrangements and what a search finds (schema arrangements).
    Arrange,
    /// Every family's starting point for the woofer in this room.
    Families,
}

pub fn run(arguments: &Arguments) -> Result<()> {
    let Arguments { file, room, tell, which, columns, rows, count } = arguments;
    ensure!((1..=16).contains(which), "--which: from 1 to 16 is expected");
    ensure!((2..=120).contains(columns), "--columns: from 2 to 120 are expected");
    ensure!((2..=80).contains(rows), "--rows: from 2 to 80 are expected");
    ensure!((1..=MOST_CABINETS).contains(count), "--count: from 1 to {MOST_CABINETS} are expected");
    let mut document: Value = serde_json::from_str(&load(file)?).with_context(|| format!("{file}: not JSON"))?;
    if let Some(room) = room {
        document["room"] = serde_json::from_str(&load(room)?).with_context(|| format!("{room}: not JSON"))?;
    }
    let design = match oak_drum_document::read_value(document) {
        Ok(design) => design,
        Err(problems) => bail!("{file}: {}", problems.iter().map(ToString::to_string).collect::<Vec<_>>().join("\n")),
    };
    ensure!(design.room.is_some(), "{file}: it stands in no room; say where with --room");
    let floor = || format!("{file}: there is no such cabinet or seat, or no floor to put it on");
    let wish = |of| MapWish { of, index: which - 1, columns: *columns, rows: *rows };
    match tell {
        Told::Seats => print_json(&view(&design, true).with_context(floor)?),
        Told::MapCabinet => print_json(&map(&design, &wish(MapOf::Cabinet)).with_context(floor)?),
        Told::MapSeat => print_json(&map(&design, &wish(MapOf::Seat)).with_context(floor)?),
        Told::Arrange => print_json(&arrangements(&design, &ArrangementsWish { count: *count }).with_context(floor)?),
        Told::Families => print_json(&families(&design).with_context(floor)?),
    }
}
